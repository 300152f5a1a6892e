import type { Outcome } from '@careful-seam/core/outcome/outcome';
import type { LoggerTable } from '@careful-seam/files/loggerCsv';
import { useEffect, useRef, useState } from 'react';
import { problemWords } from './words';

interface Work<M, S> {
  /** Reads the file's text as a table, and a table as its columns are meant; both away from the interface. */
  readTable: (text: string) => Promise<Outcome<LoggerTable>>;
  read: (table: LoggerTable, mapping: M) => Promise<Outcome<S>>;
  guess: (table: LoggerTable) => M;
}

export interface TableFile<M, S> {
  file: string | null;
  table: LoggerTable | null;
  mapping: M | null;
  series: S | null;
  problem: string | null;
  busy: boolean;
  setMapping: (mapping: M) => void;
  take: (chosen: File | undefined) => Promise<boolean>;
}

/** A logger's file: read as a table, its columns guessed, and read anew whenever somebody says what they mean. */
export function useTableFile<M, S>({ readTable, read, guess }: Work<M, S>): TableFile<M, S> {
  const [file, setFile] = useState<string | null>(null);
  const [table, setTable] = useState<LoggerTable | null>(null);
  const [mapping, setMapping] = useState<M | null>(null);
  const [series, setSeries] = useState<S | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  /** The reader as it was last drawn: a new function alone reads nothing anew. */
  const reader = useRef(read);
  useEffect(() => {
    reader.current = read;
  });
  useEffect(() => {
    if (!table || !mapping) return;
    let current = true;
    setBusy(true);
    void reader.current(table, mapping).then((outcome) => {
      if (!current) return;
      setBusy(false);
      setSeries(outcome.ok ? outcome.value : null);
      setProblem(outcome.ok ? null : problemWords(outcome.problem));
    });
    return () => {
      current = false;
    };
  }, [table, mapping]);
  const take = async (chosen: File | undefined): Promise<boolean> => {
    if (!chosen) return false;
    setBusy(true);
    setProblem(null);
    const outcome = await readTable(await chosen.text());
    setBusy(false);
    setFile(chosen.name);
    setTable(outcome.ok ? outcome.value : null);
    setMapping(outcome.ok ? guess(outcome.value) : null);
    setSeries(null);
    if (!outcome.ok) setProblem(problemWords(outcome.problem));
    return true;
  };
  return { file, table, mapping, series, problem, busy, setMapping, take };
}

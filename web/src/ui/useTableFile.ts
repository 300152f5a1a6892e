import type { Outcome } from '@careful-seam/core/outcome/outcome';
import type { LoggerTable } from '@careful-seam/files/loggerCsv';
import { useEffect, useRef, useState } from 'react';
import { problemWords } from './words';

/** How a kind of file is read, beside the screen. */
interface Work<M, S> {
  /** Reads the file's text as a table, and a table as its columns are meant; both away from the interface. */
  readTable: (text: string) => Promise<Outcome<LoggerTable>>;
  /** The file as what it is of, or why it can not be. */
  read: (table: LoggerTable, mapping: M) => Promise<Outcome<S>>;
  /** How its columns are most likely meant. */
  guess: (table: LoggerTable) => M;
}

/** A table file that was chosen, as far as it is read. */
export interface TableFile<M, S> {
  /** Its name; null before one was chosen. */
  file: string | null;
  /** Its cells; null before one was chosen. */
  table: LoggerTable | null;
  /** How its columns are read; null before one was chosen. */
  mapping: M | null;
  /** What it comes to; null where it can not be read so. */
  series: S | null;
  /** What is wrong, as a sentence; null where nothing is. */
  problem: string | null;
  /** It is still being worked out. */
  busy: boolean;
  /** Reads its columns otherwise. */
  setMapping: (mapping: M) => void;
  /** Reads a file; true when it is one. */
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

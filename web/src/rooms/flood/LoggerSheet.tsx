import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { guessMapping, LEVEL_UNITS, type LoggerMapping, type LoggerSeries } from '@careful-seam/files/loggerCsv';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { FileKey } from '../../ui/FileKey';
import { Sheet } from '../../ui/Sheet';
import { ClockFields, PickField } from '../../ui/TableFields';
import { useTableFile } from '../../ui/useTableFile';
import { floodWork } from './floodWork';
import { LoggerPreview } from './LoggerPreview';
import { seriesBody } from './loggerSeries';

/** The test that a file is taken into. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** The columns of a logger file, as they were guessed. */
interface ColumnProps {
  /** How the columns of the file are read. */
  mapping: LoggerMapping;
  /** The columns of the file, by their place, with their headings. */
  columns: { key: number; label: string }[];
  /** Told of another way to read the columns. */
  onMapping: (mapping: LoggerMapping) => void;
}

/** Which column is what. */
function Columns({ mapping, columns, onMapping }: ColumnProps) {
  const { t } = useTranslation();
  const optional = [{ key: -1, label: t('flood.file.none') }, ...columns];
  return (
    <div className="grid grid-cols-2 gap-2">
      <PickField
        label={t('flood.file.time')}
        value={mapping.time}
        options={columns}
        onPick={(time) => onMapping({ ...mapping, time })}
      />
      <PickField
        label={t('flood.file.date')}
        value={mapping.date ?? -1}
        options={optional}
        onPick={(date) => onMapping({ ...mapping, date: date < 0 ? null : date })}
      />
      <PickField
        label={t('flood.of.water')}
        value={mapping.water}
        options={columns}
        onPick={(water) => onMapping({ ...mapping, water })}
      />
      <PickField
        label={t('flood.of.pan')}
        value={mapping.pan ?? -1}
        options={optional}
        onPick={(pan) => onMapping({ ...mapping, pan: pan < 0 ? null : pan })}
      />
    </div>
  );
}

/** The unit of the levels: nothing is taken in before somebody said it. */
function UnitKeys({
  unit,
  onUnit,
}: {
  unit: LoggerMapping['unit'] | null;
  onUnit: (unit: LoggerMapping['unit']) => void;
}) {
  const { t } = useTranslation();
  return (
    <Choice
      label={t('flood.file.unit')}
      value={unit}
      options={LEVEL_UNITS.map((key) => ({ key, label: key }))}
      onChoose={onUnit}
    />
  );
}

/** A logger's file: its columns, clock and unit are shown as understood, and asked, before anything is kept. */
export function LoggerSheet({ showerId, test, zone, onClose }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const [unitSaid, setUnitSaid] = useState(false);
  const [resolutionMm, setResolution] = useState(test.method === 'logger' ? test.resolutionMm : 0.1);
  const { file, table, mapping, series, problem, busy, setMapping, take } = useTableFile<LoggerMapping, LoggerSeries>({
    readTable: async (text) => floodWork().readLoggerTable(text),
    read: async (read, as) => floodWork().readLevels(read, as),
    guess: (read) => guessMapping(read, zone, test.startMs),
  });
  const keep = async () => {
    if (!series || !file) return;
    const bodies = [seriesBody(test, 'water', series.water, file, resolutionMm)];
    if (series.pan.length > 0) bodies.push(seriesBody(test, 'pan', series.pan, file, resolutionMm));
    await writeAll(
      showerId,
      bodies.map((body) => ({ kind: 'flood-reading', body })),
    );
    onClose();
  };
  const columns = table?.columns.map((label, key) => ({ key, label })) ?? [];
  const usable = series?.water.some((r) => r.atMs >= test.startMs) ?? false;
  return (
    <Sheet title={t('flood.file.title')} onClose={onClose}>
      <FileKey
        label={file ?? t('flood.file.choose')}
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        onFile={(chosen) => void take(chosen).then((taken) => taken && setUnitSaid(false))}
      />
      {mapping && (
        <>
          <Columns mapping={mapping} columns={columns} onMapping={setMapping} />
          <UnitKeys
            unit={unitSaid ? mapping.unit : null}
            onUnit={(unit) => {
              setUnitSaid(true);
              setMapping({ ...mapping, unit });
            }}
          />
          <div className="grid grid-cols-2 gap-2">
            <PickField
              label={t('flood.file.reads')}
              value={mapping.reads}
              options={(['level', 'distance'] as const).map((key) => ({ key, label: t(`flood.file.readsAs.${key}`) }))}
              onPick={(reads) => setMapping({ ...mapping, reads })}
            />
            <PickField
              label={t('flood.step')}
              value={resolutionMm}
              options={[...new Set([0.01, 0.05, 0.1, 0.5, 1, resolutionMm])].map((key) => ({
                key,
                label: `${key} mm`,
              }))}
              onPick={setResolution}
            />
          </div>
          <ClockFields mapping={mapping} zone={zone} onMapping={setMapping} />
        </>
      )}
      {busy && <p className="text-soft">{t('flood.computing')}</p>}
      {series && <LoggerPreview series={series} test={test} zone={zone} />}
      {series && !usable && (
        <p role="alert" className="text-hold">
          {t('flood.file.allBefore')}
        </p>
      )}
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      {mapping && (
        <button
          type="button"
          className="key key-main text-lg"
          disabled={!series || !usable || !unitSaid || busy}
          onClick={() => void keep()}
        >
          {unitSaid ? t('flood.file.keep', { count: series?.water.length ?? 0 }) : t('flood.file.unitFirst')}
        </button>
      )}
    </Sheet>
  );
}

import type { Body } from '@careful-seam/core/log/bodies';
import { type ClimateMapping, type ClimateSeries, DEGREES, guessClimate } from '@careful-seam/files/climateCsv';
import { hoursWords, temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Choice } from '../../ui/Choice';
import { FileKey } from '../../ui/FileKey';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { ClockFields, PickField } from '../../ui/TableFields';
import { READINGS_AT_MOST, round, thinned } from '../../ui/thinned';
import { useTableFile } from '../../ui/useTableFile';
import type { ReadAir } from './cure.worker';
import { cureWork } from './cureWork';

/** From when on a log of the air is wanted. */
interface Props {
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** Air before this moment concerns no layer, ms since 1970. */
  startMs: number;
  /** Told of the log as it was read. */
  onKeep: (body: Body<'climate-reading'>) => void;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** A series as the entry holds it; of more readings than it may hold every second, third… is kept. */
function seriesBody({ readings }: ClimateSeries, file: string): Body<'climate-reading'> {
  const kept = thinned(readings);
  const first = kept[0]!.atMs;
  const last = kept.at(-1)!;
  return {
    airC: last.airC,
    relativeHumidity: last.relativeHumidity,
    readAt: new Date(last.atMs).toISOString(),
    instrument: 'logger',
    series: {
      startAt: new Date(first).toISOString(),
      minutes: kept.map((r) => round((r.atMs - first) / 60_000, 3)),
      airC: kept.map((r) => round(r.airC, 2)),
      relativeHumidity: kept.map((r) => round(r.relativeHumidity, 4)),
      file: file.slice(0, 200),
    },
  };
}

/** The columns of a logger file, as they were guessed. */
interface ColumnProps {
  /** How the columns of the file are read. */
  mapping: ClimateMapping;
  /** The columns of the file, by their place, with their headings. */
  columns: { key: number; label: string }[];
  /** Told of another way to read the columns. */
  onMapping: (mapping: ClimateMapping) => void;
}

/** Which column is what. */
function Columns({ mapping, columns, onMapping }: ColumnProps) {
  const { t } = useTranslation();
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
        options={[{ key: -1, label: t('flood.file.none') }, ...columns]}
        onPick={(date) => onMapping({ ...mapping, date: date < 0 ? null : date })}
      />
      <PickField
        label={t('cure.chart.temperature')}
        value={mapping.temperature}
        options={columns}
        onPick={(temperature) => onMapping({ ...mapping, temperature })}
      />
      <PickField
        label={t('cure.chart.humidity')}
        value={mapping.humidity}
        options={columns}
        onPick={(humidity) => onMapping({ ...mapping, humidity })}
      />
    </div>
  );
}

/** What was understood of the file: how many readings, from when to when, how cold and warm, and what is wrong with the sensor. */
function Preview({ series, zone }: { series: ReadAir; zone: string }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const temperatures = series.readings.map((r) => r.airC);
  return (
    <div data-testid="climate-preview">
      <p>
        {t('cure.file.found', {
          count: series.readings.length,
          from: momentWords(series.readings[0]!.atMs, zone),
          to: momentWords(series.readings.at(-1)!.atMs, zone),
          coldest: temperatureWords(
            temperatures.reduce((a, b) => Math.min(a, b), Infinity),
            unit,
          ),
          warmest: temperatureWords(
            temperatures.reduce((a, b) => Math.max(a, b), -Infinity),
            unit,
          ),
        })}
      </p>
      {series.readings.length > READINGS_AT_MOST && (
        <p>{t('cure.file.thinned', { most: READINGS_AT_MOST, kept: thinned(series.readings).length })}</p>
      )}
      {series.leftOut > 0 && <p className="text-hold">{t('flood.file.leftOut', { count: series.leftOut })}</p>}
      {series.faults.slice(0, 4).map((f) => (
        <p key={`${f.kind} ${f.channel} ${f.fromMs}`} className="border-cure border-l-4 pl-2">
          {t(`cure.fault.${f.kind}`, {
            channel: t(`cure.channel.${f.channel}`),
            at: momentWords(f.fromMs, zone),
            lasted: hoursWords(t, (f.toMs - f.fromMs) / 3_600_000),
          })}
        </p>
      ))}
    </div>
  );
}

/** A thermo-hygrometer's file: its columns, degrees and clock are shown as understood, and asked, before anything is kept. */
export function ClimateFileSheet({ zone, startMs, onKeep, onClose }: Props) {
  const { t } = useTranslation();
  const [degreesSaid, setSaid] = useState(false);
  const { file, table, mapping, series, problem, busy, setMapping, take } = useTableFile<ClimateMapping, ReadAir>({
    readTable: async (text) => cureWork().readLoggerTable(text),
    read: async (read, as) => cureWork().readAir(read, as),
    guess: (read) => guessClimate(read, zone, startMs),
  });
  const columns = table?.columns.map((label, key) => ({ key, label })) ?? [];
  return (
    <Sheet title={t('cure.file.title')} onClose={onClose}>
      <FileKey
        label={file ?? t('flood.file.choose')}
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        onFile={(chosen) => void take(chosen).then((taken) => taken && setSaid(false))}
      />
      {mapping && (
        <>
          <Columns mapping={mapping} columns={columns} onMapping={setMapping} />
          <Choice
            label={t('cure.file.degrees')}
            value={degreesSaid ? mapping.degrees : null}
            options={DEGREES.map((key) => ({ key, label: `°${key}` }))}
            onChoose={(degrees) => {
              setSaid(true);
              setMapping({ ...mapping, degrees });
            }}
          />
          <ClockFields mapping={mapping} zone={zone} onMapping={setMapping} />
        </>
      )}
      {series && <Preview series={series} zone={zone} />}
      {busy && <p className="text-soft">{t('flood.computing')}</p>}
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      {mapping && (
        <button
          type="button"
          className="key key-main text-lg"
          disabled={!series || !degreesSaid || busy}
          onClick={() => onKeep(seriesBody(series!, file ?? ''))}
        >
          {degreesSaid
            ? t('flood.file.keep', { count: thinned(series?.readings ?? []).length })
            : t('cure.file.degreesFirst')}
        </button>
      )}
    </Sheet>
  );
}

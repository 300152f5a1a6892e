import { DeviceList, DeviceReadings } from '@careful-seam/contract/api/devices';
import { useEffect, useRef, useState } from 'react';
import { call } from '../../tablet/api';
import { useList } from '../../tablet/useList';
import { errorWords } from '../../ui/words';

/** What is asked again so often while it is looked at, ms. */
const EVERY_MS = 2000;
/** Readings that are drawn and reckoned with at most: three days at one a second are a quarter of a million, and a screen has no more columns. */
const DRAWN_AT_MOST = 1500;

/** A level with its moment, mm and ms since 1970. */
export interface LevelAt {
  atMs: number;
  levelMm: number;
}

/** What an instrument has measured so far. */
export interface DeviceLevels {
  /** How many readings there are. */
  count: number;
  /** Some of them, evenly taken, the first and the last among them. */
  some: readonly LevelAt[];
  /** All of them, to be kept. */
  all: () => readonly LevelAt[];
  /** Why the last round failed, as a sentence; null where it did not. */
  problem: string | null;
}

/** Evenly taken, the last one always. */
function evenly(list: readonly LevelAt[]): LevelAt[] {
  const every = Math.max(1, Math.ceil(list.length / DRAWN_AT_MOST));
  const some: LevelAt[] = [];
  for (let k = 0; k < list.length; k += every) some.push(list[k]!);
  const last = list.at(-1);
  if (last && some.at(-1) !== last) some.push(last);
  return some;
}

/** The instruments of the firm that send by themselves. */
export const useDevices = () => useList(DeviceList, '/api/devices');

/**
 * What an instrument measured from a moment on, kept up with while it is looked at: each round asks from the last reading on, and a round
 * that fails is made again. Nothing while none is chosen.
 */
export function useDeviceLevels(id: string | null, of: 'level' | 'pan', fromMs: number): DeviceLevels {
  const list = useRef<LevelAt[]>([]);
  const [told, setTold] = useState<Pick<DeviceLevels, 'count' | 'some'>>({ count: 0, some: [] });
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    list.current = [];
    setTold({ count: 0, some: [] });
    if (id === null) return;
    let stopped = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const round = async () => {
      const after = list.current.at(-1)?.atMs ?? fromMs;
      try {
        const { readings, more } = await call(
          DeviceReadings,
          'GET',
          `/api/devices/${id}/readings?of=${of}&after=${after}`,
        );
        if (stopped) return;
        for (const { atMs, value } of readings) list.current.push({ atMs, levelMm: value });
        // What comes in many parts is drawn once it is here.
        if (readings.length > 0 && !more) setTold({ count: list.current.length, some: evenly(list.current) });
        setProblem(null);
        timer = setTimeout(() => void round(), more ? 0 : EVERY_MS);
      } catch (error) {
        if (stopped) return;
        setProblem(errorWords(error));
        timer = setTimeout(() => void round(), EVERY_MS);
      }
    };
    void round();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [id, of, fromMs]);
  return { ...told, all: () => list.current, problem };
}

import { DeviceList, DeviceReadings } from '@careful-seam/contract/api/devices';
import { useEffect, useRef, useState } from 'react';
import { call } from '../../tablet/api';
import { useList } from '../../tablet/useList';
import { errorWords } from '../../ui/words';

/** What is asked again so often while it is looked at, ms. */
const EVERY_MS = 2000;

/** A level with its moment, mm and ms since 1970. */
export interface LevelAt {
  atMs: number;
  levelMm: number;
}

/** The instruments of the firm that send by themselves. */
export const useDevices = () => useList(DeviceList, '/api/devices');

/**
 * What an instrument measured from a moment on, kept up with while it is looked at: each round asks from the last reading on, and a round
 * that fails is made again. Nothing while none is chosen.
 */
export function useDeviceLevels(
  id: string | null,
  of: 'level' | 'pan',
  fromMs: number,
): { levels: LevelAt[]; problem: string | null } {
  const [levels, setLevels] = useState<LevelAt[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const last = useRef(fromMs);
  useEffect(() => {
    setLevels([]);
    last.current = fromMs;
    if (id === null) return;
    let stopped = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const round = async () => {
      try {
        const { readings, more } = await call(
          DeviceReadings,
          'GET',
          `/api/devices/${id}/readings?of=${of}&after=${last.current}`,
        );
        if (stopped) return;
        if (readings.length > 0) {
          last.current = readings.at(-1)!.atMs;
          setLevels((before) => [...before, ...readings.map((r) => ({ atMs: r.atMs, levelMm: r.value }))]);
        }
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
  return { levels, problem };
}

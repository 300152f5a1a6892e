import { isSimulated, readSenml, rodReadingMm } from '@careful-seam/contract/instruments/senml';
import type { PlanPoint } from '@careful-seam/core/geometry/point';
import { useEffect, useRef, useState } from 'react';

export interface Laser {
  state: 'off' | 'waiting' | 'on' | 'lost';
  problem: string | null;
  /** Tells a simulated receiver where the rod stands; a real one knows nothing of it. */
  setRod: (place: PlanPoint) => void;
  connect: (address: string) => void;
  disconnect: () => void;
}

/** A laser receiver's readings over server-sent events, each handed on as it comes. */
export function useLaser(onReading: (rodMm: number) => void): Laser {
  const [state, setState] = useState<Laser['state']>('off');
  const [problem, setProblem] = useState<string | null>(null);
  const source = useRef<EventSource | null>(null);
  const address = useRef('');
  const heard = useRef(onReading);
  heard.current = onReading;
  const simulated = useRef(true);
  const disconnect = () => {
    source.current?.close();
    source.current = null;
    setState('off');
  };
  useEffect(() => () => source.current?.close(), []);
  const connect = (to: string) => {
    disconnect();
    setProblem(null);
    const base = to.trim().replace(/\/+$/, '');
    if (!/^http:\/\/(127\.0\.0\.1|localhost):\d+$/.test(base)) return setProblem('address');
    address.current = base;
    const stream = new EventSource(`${base}/readings`);
    source.current = stream;
    setState('waiting');
    stream.onopen = () => setState('on');
    stream.onerror = () => setState('lost');
    stream.onmessage = (event) => {
      const pack = readSenml(String(event.data));
      if (!pack.ok) return setProblem(pack.problem.message);
      simulated.current = isSimulated(pack.value);
      const rodMm = rodReadingMm(pack.value);
      if (rodMm !== null) heard.current(rodMm);
    };
  };
  const setRod = (place: PlanPoint) => {
    if (state !== 'on' || !simulated.current) return;
    void fetch(`${address.current}/rod`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(place),
    }).catch(() => setState('lost'));
  };
  return { state, problem, setRod, connect, disconnect };
}

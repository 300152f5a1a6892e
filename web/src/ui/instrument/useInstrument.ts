import { isSimulated, type Measured, readSenml } from '@careful-seam/files/instruments/senml';
import { useEffect, useRef, useState } from 'react';
import { problemWords } from '../words';

/** An instrument behind a helper on this machine. */
export interface Instrument {
  /** Off, waiting for it, heard, or heard no more. */
  state: 'off' | 'waiting' | 'on' | 'lost';
  /** `address`: nothing but this tablet can be reached; else a sentence. */
  problem: string | null;
  /** Says something to a simulated instrument; a real one is never told. */
  tell: (path: string, body: unknown) => void;
  /** Listens at an address. */
  connect: (address: string) => void;
  /** Listens no more. */
  disconnect: () => void;
}

/** An instrument's SenML packs over server-sent events from a bridge on this tablet, each handed on as it comes. */
export function useInstrument(onPack: (pack: Measured[]) => void): Instrument {
  const [state, setState] = useState<Instrument['state']>('off');
  const [problem, setProblem] = useState<string | null>(null);
  const source = useRef<EventSource | null>(null);
  const address = useRef('');
  const heard = useRef(onPack);
  heard.current = onPack;
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
      if (!pack.ok) return setProblem(problemWords(pack.problem));
      simulated.current = isSimulated(pack.value);
      heard.current(pack.value);
    };
  };
  const tell = (path: string, body: unknown) => {
    if (state !== 'on' || !simulated.current) return;
    void fetch(`${address.current}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => setState('lost'));
  };
  return { state, problem, tell, connect, disconnect };
}

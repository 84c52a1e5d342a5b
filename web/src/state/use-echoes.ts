import { useCallback, useEffect, useRef, useState } from 'react';
import { readEcho } from '@restless-shoal/core/formats';
import { EchoRecord } from './echo-record';

/** Without an echo for so long there is no picture, ms. */
const QUIET_MS = 3000;

/** What the sonar was heard to say, and whether it goes on. */
export interface Echoes {
  record: EchoRecord;
  heard: boolean;
  /** Takes a line of the stream. @param at when it came, ms */
  take: (line: string, at: number) => void;
}

/** Keeps the sonar's echoes as they come from the boat's network. */
export function useEchoes(): Echoes {
  const record = useRef<EchoRecord | null>(null);
  record.current ??= new EchoRecord();
  const [heard, setHeard] = useState(false);
  const came = useRef(0);
  const take = useCallback((line: string, at: number) => {
    const echo = readEcho(line);
    if (typeof echo === 'string') return;
    record.current!.take(echo, at);
    came.current = Date.now();
  }, []);
  useEffect(() => {
    const beat = setInterval(() => setHeard(Date.now() - came.current < QUIET_MS), 500);
    return () => clearInterval(beat);
  }, []);
  return { record: record.current, heard, take };
}

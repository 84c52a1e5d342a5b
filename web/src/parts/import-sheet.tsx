import { useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { newId, USUAL_RANGE } from '@restless-shoal/core/logbook';
import { getJson, sendFile, sendJson } from '../api/client';
import type { JobState } from '../api/queries';
import { refresh } from '../state/jobs';
import { Dialog } from './dialog';
import { grouped } from './format';
import { Progress } from './progress';
import { Say } from './say';

interface Findings {
  count: number;
  first: { line: number; column: string; reason: string }[];
}

/** What an import answers. */
interface ImportAnswer {
  water: string;
  files: {
    report: { file: string; read: number; bad: Findings; odd: Findings; unknownColumns: string[]; rangeUnsaid: number };
    merge: { added: number; same: number; changed: number; different: { count: number; lines: number[] } };
  }[];
  passedOver: { file: string; why: string }[];
  chart: { soundings: number; cells: number } | null;
}

function FindingsOf({ words, findings }: { words: string; findings: Findings }) {
  if (!findings.count) return null;
  return (
    <details className="text-sm">
      <summary className="min-h-9 cursor-pointer py-1">
        {grouped(findings.count)} {words}
      </summary>
      <ul className="num max-h-40 overflow-y-auto pl-4 text-mute">
        {findings.first.map((f, k) => (
          <li key={k}>
            line {f.line}
            {f.column && `, ${f.column}`}: {f.reason}
          </li>
        ))}
        {findings.count > findings.first.length && <li>and {grouped(findings.count - findings.first.length)} more</li>}
      </ul>
    </details>
  );
}

/** What became of every file: read, used, left out and why. */
function Report({ answer }: { answer: ImportAnswer }) {
  return (
    <div data-testid="import-report">
      {answer.files.map(({ report, merge }) => (
        <section key={report.file} className="border-t border-line py-2">
          <p className="font-semibold">{report.file}</p>
          <p className="num text-sm">
            {grouped(report.read)} read, {grouped(merge.added)} added, {grouped(merge.same)} known already
            {merge.changed > 0 && `, ${grouped(merge.changed)} changed`}
          </p>
          <FindingsOf words="left out" findings={report.bad} />
          <FindingsOf words="odd, kept and flagged" findings={report.odd} />
          {merge.different.count > 0 && (
            <p className="num text-sm text-mute">
              {grouped(merge.different.count)} are known with other content and were left as they were: line{' '}
              {merge.different.lines.slice(0, 8).join(', ')}
              {merge.different.count > 8 && ' …'}
            </p>
          )}
          {report.rangeUnsaid > 0 && (
            <p className="num text-sm text-mute">
              {grouped(report.rangeUnsaid)} fixes of a side-scan or forward-facing view say no range:{' '}
              <Say>{`${USUAL_RANGE} m is taken`}</Say>
            </p>
          )}
          {report.unknownColumns.length > 0 && (
            <p className="text-sm text-mute">Not known and passed over: {report.unknownColumns.join(', ')}</p>
          )}
        </section>
      ))}
      {answer.passedOver.map(({ file, why }) => (
        <p key={file} className="border-t border-line py-2 text-sm text-mute">
          {file}: passed over ({why})
        </p>
      ))}
      {answer.chart && (
        <p className="num border-t border-line pt-2 font-semibold">
          Chart built from {grouped(answer.chart.soundings)} soundings: {grouped(answer.chart.cells)} <Say>cells of 25 m</Say>.
        </p>
      )}
    </div>
  );
}

const KINDS = '.csv,.gpx,.nmea,.log,.txt,.geojson,.json,.zip';

interface ImportSheetProps {
  /** The water files go into; null: a new one, to be named. */
  water: string | null;
  onClose: () => void;
  /** Called with the water's id once all is in. */
  onDone?: (water: string) => void;
}

/** Brings files in: sends them, watches the import and the build, and shows what became of each. */
export function ImportSheet({ water, onClose, onDone }: ImportSheetProps) {
  const queries = useQueryClient();
  const [name, setName] = useState('');
  const [files, setFiles] = useState<File[]>([]);
  const [update, setUpdate] = useState(false);
  const [at, setAt] = useState<{ words: string; share: number; job: string | null } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [answer, setAnswer] = useState<ImportAnswer | null>(null);
  const stop = useRef(new AbortController());
  useEffect(() => () => stop.current.abort(), []);

  const run = async (): Promise<void> => {
    const aborter = (stop.current = new AbortController());
    setFailed(null);
    try {
      const upload = newId();
      const total = files.reduce((sum, f) => sum + f.size, 0) || 1;
      let sent = 0;
      for (const file of files) {
        await sendFile(`/uploads/${upload}/${encodeURIComponent(file.name)}`, file, aborter.signal, (bytes) =>
          setAt({ words: `sending ${file.name}`, share: (0.2 * (sent + bytes)) / total, job: null }),
        );
        sent += file.size;
      }
      const { job } = await sendJson<{ job: string }>('POST', '/imports', { upload, water: water ?? name.trim(), create: !water, update });
      for (;;) {
        const state = await getJson<JobState>(`/jobs/${job}`);
        if (state.state === 'done') {
          const result = state.result as ImportAnswer;
          await refresh(queries);
          setAnswer(result);
          onDone?.(result.water);
          break;
        }
        if (state.state === 'failed') throw new Error(state.error ?? 'the import failed');
        if (state.state === 'cancelled')
          throw new Error('It was cancelled. A file goes in whole or not at all; bringing it in again adds only what is missing.');
        if (aborter.signal.aborted) return;
        setAt({ words: state.words ?? 'waiting its turn', share: 0.2 + 0.8 * state.share, job });
        await new Promise((done) => setTimeout(done, 400));
      }
    } catch (error) {
      if (!aborter.signal.aborted) setFailed((error as Error).message);
    } finally {
      setAt(null);
    }
  };
  const cancel = (): void => {
    const job = at?.job;
    if (job) void sendJson('DELETE', `/jobs/${job}`).catch((error: Error) => setFailed(error.message));
    else {
      stop.current.abort();
      setAt(null);
    }
  };
  return (
    <Dialog title={answer ? 'What came in' : water ? `Bring files into ${water}` : 'A new water'} onClose={onClose}>
      {answer ? (
        <>
          <Report answer={answer} />
          <button type="button" className="btn btn-primary touch-target mt-4 w-full" onClick={onClose}>
            Done
          </button>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void run();
          }}
        >
          {!water && (
            <label className="mb-3 block">
              <span className="font-semibold">Name of the water</span>
              <input className="input mt-1 h-11 w-full" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} required />
            </label>
          )}
          <label
            className="flex min-h-28 cursor-pointer flex-col items-center justify-center gap-1 rounded-box border-2 border-dashed border-line p-4 text-center focus-within:border-act"
            onDragOver={(event) => event.preventDefault()}
            onDrop={(event) => {
              event.preventDefault();
              setFiles([...event.dataTransfer.files]);
            }}
          >
            <FileUp aria-hidden />
            <span className="font-semibold">{files.length ? files.map((f) => f.name).join(', ') : 'Choose files, or drop them here'}</span>
            <span className="text-sm text-mute">
              Soundings and logs as CSV, GPX tracks, NMEA 0183 logs, an outline as GeoJSON, or a ZIP of them
            </span>
            <input
              type="file"
              aria-label="Files"
              className="sr-only"
              multiple
              accept={KINDS}
              onChange={(e) => setFiles([...(e.target.files ?? [])])}
            />
          </label>
          <label className="mt-3 flex min-h-11 items-center gap-3">
            <input type="checkbox" className="checkbox" checked={update} onChange={(e) => setUpdate(e.target.checked)} />
            <span>Change records that are known with other content</span>
          </label>
          {failed && (
            <p role="alert" className="mt-2 border-l-4 border-warn pl-3 text-warn">
              {failed}
            </p>
          )}
          {at ? (
            <div className="mt-3">
              <Progress words={at.words} share={at.share} onCancel={cancel} />
            </div>
          ) : (
            <button type="submit" className="btn btn-primary touch-target mt-3 w-full" disabled={!files.length || (!water && !name.trim())}>
              Bring in
            </button>
          )}
        </form>
      )}
    </Dialog>
  );
}

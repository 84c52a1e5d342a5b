import { CELL } from '@restless-shoal/core/geo';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { FileUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { newId, USUAL_RANGE } from '@restless-shoal/core/logbook';
import { ask, sendFile } from '../../api/client';
import type { ImportPreview } from '@restless-shoal/core/contract';
import type { KnownPlace, PartMapping, Question } from '@restless-shoal/core/tables';
import { useWaters, waterQuery } from '../../api/queries';
import { refresh } from '../../state/jobs';
import { Dialog } from '../dialog';
import { grouped, METRES_PER } from '../format';
import { readNumber } from '../read-number';
import { useUnits } from '../../state/units';
import { Progress } from '../progress';
import { PartCard } from './part-card';
import { PlaceMatcher } from './place-matcher';
import { imports as msg } from '../../words';
import { told } from '../told';

interface Findings {
  count: number;
  first: { line: number; column: string; reason: string }[];
}

/** What an import answers. */
interface ImportAnswer {
  water: string;
  files: {
    report: { file: string; read: number; bad: Findings; odd: Findings; unknownColumns: string[]; rangeUnsaid: number };
    merge: {
      added: number;
      same: number;
      changed: number;
      trashed: number;
      different: { count: number; lines: number[] };
      beside: { count: number; lines: number[] };
    };
  }[];
  passedOver: { file: string; why: string }[];
  unknownPlaces: { name: string; rows: number }[];
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
          <li key={k}>{msg('importSheet.line', { line: f.line, value: f.column ? `, ${f.column}` : '', reason: f.reason })}</li>
        ))}
        {findings.count > findings.first.length && (
          <li>{msg('importSheet.andMore', { count: grouped(findings.count - findings.first.length) })}</li>
        )}
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
            {msg('importSheet.readAddedKnownAlready', {
              read: grouped(report.read),
              added: grouped(merge.added),
              same: grouped(merge.same),
              value: merge.changed > 0 ? msg('importSheet.changed', { changed: grouped(merge.changed) }) : '',
              value2: merge.trashed > 0 ? msg('importSheet.inTheTrashAnd', { trashed: grouped(merge.trashed) }) : '',
            })}
          </p>
          <FindingsOf words={msg('importSheet.leftOut')} findings={report.bad} />
          <FindingsOf words={msg('importSheet.oddKeptAndFlagged')} findings={report.odd} />
          {merge.different.count > 0 && (
            <p className="num text-sm text-mute">
              {msg('importSheet.differFromExistingRecords', {
                count: grouped(merge.different.count),
                lines: merge.different.lines.slice(0, 8).join(', '),
                value: merge.different.count > 8 ? ' …' : '',
              })}
            </p>
          )}
          {merge.beside.count > 0 && (
            <p className="num text-sm text-mute">
              {msg('importSheet.wereAddedAsRecords', {
                count: grouped(merge.beside.count),
                lines: merge.beside.lines.slice(0, 8).join(', '),
                value: merge.beside.count > 8 ? ' …' : '',
              })}
            </p>
          )}
          {report.rangeUnsaid > 0 && (
            <p className="num text-sm text-mute">
              {msg('importSheet.fixesOfASide', { rangeUnsaid: grouped(report.rangeUnsaid) })}{' '}
              {msg('importSheet.mIsTaken', { usualRange: USUAL_RANGE })}
            </p>
          )}
          {report.unknownColumns.length > 0 && (
            <p className="text-sm text-mute">
              {msg('importSheet.unknownColumnsIgnored', { unknownColumns: report.unknownColumns.join(', ') })}
            </p>
          )}
        </section>
      ))}
      {answer.passedOver.map(({ file, why }) => (
        <p key={file} className="border-t border-line py-2 text-sm text-mute">
          {msg('importSheet.passedOver', { file, why })}
        </p>
      ))}
      {answer.unknownPlaces.length > 0 && (
        <p className="border-t border-line py-2 text-sm text-mute">
          {msg('importSheet.placesWithoutAPosition', { unknownPlaces: answer.unknownPlaces.map((p) => p.name).join(', ') })}
        </p>
      )}
      {answer.chart && (
        <p className="num border-t border-line pt-2 font-semibold">
          {msg('importSheet.chartBuiltFromSoundings', { soundings: grouped(answer.chart.soundings), cells: grouped(answer.chart.cells) })}{' '}
          {msg('importSheet.cellsOfM', { cell: CELL })}.
        </p>
      )}
    </div>
  );
}

interface ImportSheetProps {
  /** The water files go into; null: a new one, to be named. */
  water: string | null;
  onClose: () => void;
  /** Called with the water's id once all is in. */
  onDone?: (water: string) => void;
}

type Step = { step: 'choose' } | { step: 'look'; upload: string; preview: ImportPreview } | { step: 'done'; answer: ImportAnswer };

/** How long a mapping stands still before it is tried on the file, ms. */
const SETTLED_MS = 300;

/** Imports files: sends them, asks what cannot be known from them, watches the import and the build, and shows what became of each. */
export function ImportSheet({ water, onClose, onDone }: ImportSheetProps) {
  const queries = useQueryClient();
  const { depth } = useUnits();
  const waters = useWaters().data;
  const outline =
    useQuery({ ...waterQuery(waters?.find((w) => w.name === water)?.id ?? ''), enabled: water !== null && waters !== undefined }).data
      ?.outline ?? null;
  const [name, setName] = useState('');
  const [files, setFiles] = useState<File[]>([]);
  const [update, setUpdate] = useState(false);
  // Whose marks they are, where they are not one's own.
  const [sent, setSent] = useState<{ name: string; within: string } | null>(null);
  const [stage, setStage] = useState<Step>({ step: 'choose' });
  const [places, setPlaces] = useState<KnownPlace[]>([]);
  // What was asked of each part, by its signature: an answered question stays on the page.
  const [asked, setAsked] = useState<Record<string, Question[]>>({});
  const [at, setAt] = useState<{ words: string; share: number; job: string | null } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const stop = useRef(new AbortController());
  useEffect(() => () => stop.current.abort(), []);
  const into = water ?? name.trim();

  const within = sent?.within.trim() ? readNumber(sent.within) * METRES_PER[depth] : null;
  const noDistance = within !== null && !(within >= 0 && within <= 100_000);
  const wrong = sent !== null && (!sent.name.trim() || noDistance);
  const from = sent ? { name: sent.name.trim(), within_m: within } : undefined;

  const look = (upload: string, mapping?: { parts: PartMapping[]; places: KnownPlace[] }): Promise<ImportPreview> =>
    ask(
      'POST /imports/preview',
      {},
      { body: { upload, water: into, create: false, update: false, ...(mapping ? { mapping } : {}), ...(from ? { from } : {}) } },
    );
  const note = (preview: ImportPreview): void =>
    setAsked((before) => {
      const out = { ...before };
      for (const { mapping, questions } of preview.parts)
        out[mapping.signature] = [...new Set([...(out[mapping.signature] ?? []), ...questions])];
      return out;
    });

  const send = async (): Promise<void> => {
    const aborter = (stop.current = new AbortController());
    setFailed(null);
    try {
      const upload = newId();
      const total = files.reduce((sum, f) => sum + f.size, 0) || 1;
      let sent = 0;
      for (const file of files) {
        await sendFile(upload, file, aborter.signal, (bytes) =>
          setAt({ words: msg('importSheet.sending', { name: file.name }), share: (0.2 * (sent + bytes)) / total, job: null }),
        );
        sent += file.size;
      }
      setAt({ words: msg('importSheet.lookingIntoTheFiles'), share: 0.2, job: null });
      const preview = await look(upload);
      if (aborter.signal.aborted) return;
      // Files of our own formats leave nothing to ask.
      if (!preview.parts.length) return await take(upload, []);
      note(preview);
      setStage({ step: 'look', upload, preview });
    } catch (error) {
      if (!aborter.signal.aborted) setFailed(told(error));
    } finally {
      setAt(null);
    }
  };
  const take = async (upload: string, parts: PartMapping[]): Promise<void> => {
    const aborter = stop.current;
    setFailed(null);
    try {
      const { job } = await ask(
        'POST /imports',
        {},
        {
          body: {
            upload,
            water: into,
            create: !water,
            update,
            ...(parts.length ? { mapping: { parts, places } } : {}),
            ...(from ? { from } : {}),
          },
        },
      );
      for (;;) {
        const state = await ask('GET /jobs/:job', { job });
        if (state.state === 'done') {
          const answer = state.result as ImportAnswer;
          await refresh(queries);
          setStage({ step: 'done', answer });
          onDone?.(answer.water);
          break;
        }
        if (state.state === 'failed') throw new Error(state.error ?? msg('importSheet.theImportFailed'));
        if (state.state === 'cancelled') throw new Error(msg('importSheet.importCancelledEachFile'));
        if (aborter.signal.aborted) return;
        setAt({ words: state.words ?? msg('importSheet.waitingItsTurn'), share: 0.2 + 0.8 * state.share, job });
        await new Promise((done) => setTimeout(done, 400));
      }
    } catch (error) {
      if (!aborter.signal.aborted) setFailed(told(error));
    } finally {
      setAt(null);
    }
  };
  // A mapping that was changed is tried on the file once it stands still.
  const trial = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const change = (parts: PartMapping[], named = places): void => {
    if (stage.step !== 'look') return;
    const { upload, preview } = stage;
    setStage({
      ...stage,
      preview: {
        ...preview,
        parts: preview.parts.map((p, k) => ({ ...p, mapping: parts[k], questions: p.mapping === parts[k] ? p.questions : [] })),
      },
    });
    clearTimeout(trial.current);
    trial.current = setTimeout(() => {
      look(upload, { parts, places: named }).then(
        (next) => {
          note(next);
          setStage((now) => (now.step === 'look' && now.upload === upload ? { ...now, preview: next } : now));
        },
        (error: Error) => setFailed(error.message),
      );
    }, SETTLED_MS);
  };
  const cancel = (): void => {
    const job = at?.job;
    if (job) void ask('DELETE /jobs/:job', { job }).catch((error: Error) => setFailed(error.message));
    else {
      stop.current.abort();
      setAt(null);
    }
  };
  const trouble = failed && (
    <p role="alert" className="mt-2 whitespace-pre-line border-l-4 border-warn pl-3 text-warn">
      {failed}
    </p>
  );
  const progress = at && (
    <div className="mt-3">
      <Progress words={at.words} share={at.share} onCancel={cancel} />
    </div>
  );
  if (stage.step === 'done')
    return (
      <Dialog title={msg('importSheet.whatWasImported')} onClose={onClose}>
        <Report answer={stage.answer} />
        <button type="button" className="btn btn-primary touch-target mt-4 w-full" onClick={onClose}>
          {msg('importSheet.done')}
        </button>
      </Dialog>
    );
  if (stage.step === 'look') {
    const { preview, upload } = stage;
    const parts = preview.parts.map((p) => p.mapping);
    const used = preview.parts.filter((p) => p.mapping.as !== 'skip');
    const ready = used.every((p) => !p.questions.length && !p.fault) && (used.length > 0 || preview.native.length > 0);
    const unanswered = used.reduce((n, p) => n + p.questions.length, 0);
    return (
      <Dialog title={msg('importSheet.importInto', { into })} wide onClose={onClose}>
        {preview.native.length > 0 && (
          <p className="pb-2 text-sm text-mute">
            {msg('importSheet.readDirectly', { native: preview.native.map((n) => n.file).join(', ') })}
          </p>
        )}
        {preview.parts.map((part, k) => (
          <PartCard
            key={part.mapping.signature}
            preview={part}
            asked={asked[part.mapping.signature] ?? []}
            zone={preview.zone}
            onChange={(mapping) => change(parts.map((m, j) => (j === k ? mapping : m)))}
          >
            {part.catches && (part.catches.unknownPlaces.length > 0 || places.length > 0) && (
              <PlaceMatcher
                unknown={part.catches.unknownPlaces}
                outline={outline}
                places={places}
                onPlaces={(named) => {
                  setPlaces(named);
                  change(parts, named);
                }}
              />
            )}
          </PartCard>
        ))}
        {preview.passedOver.map(({ file, why }) => (
          <p key={file} className="border-t border-line py-2 text-sm text-mute">
            {msg('importSheet.passedOver', { file, why })}
          </p>
        ))}
        {trouble}
        {progress ?? (
          <button type="button" className="btn btn-primary mt-3 h-12 w-full" disabled={!ready} onClick={() => void take(upload, parts)}>
            {unanswered
              ? msg('importSheet.answerFirst', {
                  unanswered: unanswered === 1 ? msg('importSheet.oneQuestion') : msg('importSheet.questions', { unanswered }),
                })
              : msg('importSheet.import')}
          </button>
        )}
      </Dialog>
    );
  }
  return (
    <Dialog title={water ? msg('importSheet.importFilesInto', { water }) : msg('importSheet.importANewWater')} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        {!water && (
          <label className="mb-3 block">
            <span className="font-semibold">{msg('importSheet.nameOfTheWater')}</span>
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
          <span className="font-semibold">{files.length ? files.map((f) => f.name).join(', ') : msg('importSheet.chooseFilesOrDrop')}</span>
          <span className="text-sm text-mute">{msg('importSheet.tablesOfSoundingsA')}</span>
          <input
            type="file"
            aria-label={msg('importSheet.files')}
            className="sr-only"
            multiple
            onChange={(e) => setFiles([...(e.target.files ?? [])])}
          />
        </label>
        <label className="mt-3 flex min-h-11 items-center gap-3">
          <input type="checkbox" className="checkbox" checked={update} onChange={(e) => setUpdate(e.target.checked)} />
          <span>{msg('importSheet.updateExistingRecordsThat')}</span>
        </label>
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="checkbox"
            checked={sent !== null}
            onChange={(e) => setSent(e.target.checked ? { name: '', within: '' } : null)}
          />
          <span>{msg('importSheet.marksOfSomebodyElse')}</span>
        </label>
        {sent && (
          <div className="mt-1 border-l-4 border-line pl-3">
            <p className="text-sm text-mute">{msg('importSheet.onlyMarksAreTaken')}</p>
            <div className="mt-2 flex gap-2">
              <label className="min-w-0 flex-1">
                <span className="text-sm text-mute">{msg('importSheet.whoTheyAreFrom')}</span>
                <input
                  className="input h-11 w-full"
                  value={sent.name}
                  maxLength={120}
                  required
                  onChange={(e) => setSent({ ...sent, name: e.target.value })}
                />
              </label>
              <label className="w-28">
                <span className="text-sm text-mute">{msg('importSheet.goodTo', { unit: depth })}</span>
                <input
                  className="input num h-11 w-full"
                  inputMode="decimal"
                  value={sent.within}
                  onChange={(e) => setSent({ ...sent, within: e.target.value })}
                />
              </label>
            </div>
            {noDistance && (
              <p role="alert" className="mt-1 text-sm text-warn">
                {msg('importSheet.goodToMustBe', { unit: depth })}
              </p>
            )}
          </div>
        )}
        {trouble}
        {progress ?? (
          <button
            type="submit"
            className="btn btn-primary touch-target mt-3 w-full"
            disabled={!files.length || (!water && !name.trim()) || wrong}
          >
            {msg('importSheet.import')}
          </button>
        )}
      </form>
    </Dialog>
  );
}

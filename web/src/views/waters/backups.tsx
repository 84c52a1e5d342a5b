import type { BackupsState } from '@restless-shoal/core/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { formatDistanceToNowStrict } from 'date-fns';
import { Download, HardDriveDownload, Settings2 } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { Problem } from '../../parts/problem';
import { waters as msg, decimal } from '../../words';
import { told } from '../../parts/told';

const DAY = 86_400_000;

const megabytes = (bytes: number): string =>
  bytes < 1e6 ? msg('backups.kb', { bytes: Math.max(1, Math.round(bytes / 1e3)) }) : msg('backups.mb', { bytes: decimal(bytes / 1e6, 1) });

/** How old the last good backup of the whole logbook is, and the ways to have another. */
export function Backups() {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ['backups'],
    queryFn: () => ask('GET /backups', {}),
    staleTime: 0,
    refetchInterval: 60_000,
  });
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const [settings, setSettings] = useState(false);
  if (!data) return null;
  const backUp = async (): Promise<void> => {
    setBusy(true);
    setFailed(null);
    try {
      queries.setQueryData(['backups'], await ask('POST /backups', {}));
    } catch (error) {
      setFailed(told(error));
    } finally {
      setBusy(false);
    }
  };
  const old = data.last === null || Date.now() - Date.parse(data.last.at) > 2 * DAY;
  const trouble = failed ?? data.error;
  return (
    <section aria-label={msg('backups.backup')} className="mt-2 border-t border-line pt-3">
      <h2 className="text-lg font-bold">{msg('backups.backup')}</h2>
      <p className={`num text-sm ${old && !data.daily ? 'text-warn' : 'text-mute'}`}>
        {data.last
          ? msg('backups.lastGoodBackupAgo', { at: formatDistanceToNowStrict(new Date(data.last.at)), bytes: megabytes(data.last.bytes) })
          : msg('backups.noBackupYet')}{' '}
        {data.daily ? msg('backups.madeOnceADay', { keep: data.keep, folder: data.folder }) : msg('backups.dailyBackupsAreOff')}
      </p>
      <Problem words={trouble} />
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="btn h-12" disabled={busy} onClick={() => void backUp()}>
          <HardDriveDownload aria-hidden /> {busy ? msg('backups.backingUp') : msg('backups.backUpNow')}
        </button>
        <a className="btn h-12" href="/api/backup" download>
          <Download aria-hidden /> {msg('backups.downloadABackup')}
        </a>
        <button type="button" className="btn h-12 px-3" aria-label={msg('backups.settingsOfTheBackup')} onClick={() => setSettings(true)}>
          <Settings2 aria-hidden />
        </button>
      </div>
      {settings && <BackupSettings state={data} onClose={() => setSettings(false)} />}
    </section>
  );
}

function BackupSettings({ state, onClose }: { state: BackupsState; onClose: () => void }) {
  const queries = useQueryClient();
  const [folder, setFolder] = useState(state.folder);
  const [keep, setKeep] = useState(String(state.keep));
  const [daily, setDaily] = useState(state.daily);
  const [failed, setFailed] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    setFailed(null);
    try {
      queries.setQueryData(['backups'], await ask('PUT /backups', {}, { body: { folder: folder.trim(), keep: Number(keep), daily } }));
      onClose();
    } catch (error) {
      setFailed(told(error));
    }
  };
  const field = 'grid grid-cols-[8.5rem_1fr] items-center gap-3 py-1';
  return (
    <Dialog title={msg('backups.backup')} onClose={onClose}>
      <label className="flex min-h-11 items-center gap-3">
        <input type="checkbox" className="toggle" checked={daily} onChange={(e) => setDaily(e.target.checked)} />
        <span>{msg('backups.backUpOnceA')}</span>
      </label>
      <label className="block py-1">
        <span className="text-sm text-mute">{msg('backups.folderOnTheServer')}</span>
        <input className="input h-11 w-full" value={folder} maxLength={1000} onChange={(e) => setFolder(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('backups.backupsToKeep')}</span>
        <input className="input num h-11 w-full" inputMode="numeric" value={keep} onChange={(e) => setKeep(e.target.value)} />
      </label>
      <p className="text-sm text-mute">{msg('backups.aFolderOnAnother')}</p>
      <Problem words={failed} />
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={() => void save()}>
        {msg('backups.save')}
      </button>
    </Dialog>
  );
}

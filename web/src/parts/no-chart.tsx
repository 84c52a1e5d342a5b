import { FileUp, PencilLine } from 'lucide-react';
import { Link } from 'react-router';
import { useImporting } from '../state/importing';
import { useBuilds } from '../state/jobs';
import { useWaterState } from '../state/water';
import { BuildNotes } from './build-notes';
import { parts as msg } from '../words';

/** What a view shows that needs depths while the water has none: the one thing to do next. */
export function NoChart({ needs = msg('noChart.thisViewNeedsDepths') }: { needs?: string }) {
  const { water, ground } = useWaterState();
  const builds = useBuilds(water.id);
  const importing = useImporting();
  return (
    <div className="mx-auto mt-16 max-w-lg p-6 short:mt-2">
      <h1 className="text-2xl font-bold">{msg('noChart.hasNoChartYet', { name: water.name })}</h1>
      {!builds.running.length && (
        <>
          <p className="mt-2 text-mute">{msg('noChart.logATripWith', { needs })}</p>
          <div className="my-4 flex flex-wrap gap-2">
            <button type="button" className="btn btn-primary touch-target" onClick={() => importing(water.name)}>
              <FileUp size={18} aria-hidden /> {msg('noChart.importFiles')}
            </button>
            {!water.outline && (
              <Link className="btn touch-target" to={ground ? '/chart?tool=draw' : '/waters'}>
                <PencilLine size={18} aria-hidden /> {ground ? msg('noChart.drawOutline') : msg('noChart.setPosition')}
              </Link>
            )}
          </div>
        </>
      )}
      <BuildNotes builds={builds} />
    </div>
  );
}

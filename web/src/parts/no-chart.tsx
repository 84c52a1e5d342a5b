import { FileUp, PencilLine } from 'lucide-react';
import { Link } from 'react-router';
import { useImporting } from '../state/importing';
import { useBuilds } from '../state/jobs';
import { useWaterState } from '../state/water';
import { BuildNotes } from './build-notes';

/** What a view shows that needs depths while the water has none: the one thing to do next. */
export function NoChart({ needs = 'This view needs depths.' }: { needs?: string }) {
  const { water, ground } = useWaterState();
  const builds = useBuilds(water.id);
  const importing = useImporting();
  return (
    <div className="mx-auto mt-16 max-w-lg p-6 short:mt-2">
      <h1 className="text-2xl font-bold">{water.name} has no chart yet</h1>
      {!builds.running.length && (
        <>
          <p className="mt-2 text-mute">
            {needs} Log a trip with a sounder on the boat’s network, or import soundings: tables, plotter tracks, NMEA logs, depth grids or
            contour lines.
          </p>
          <div className="my-4 flex flex-wrap gap-2">
            <button type="button" className="btn btn-primary touch-target" onClick={() => importing(water.name)}>
              <FileUp size={18} aria-hidden /> Import files
            </button>
            {!water.outline && (
              <Link className="btn touch-target" to={ground ? '/chart?tool=draw' : '/waters'}>
                <PencilLine size={18} aria-hidden /> {ground ? 'Draw outline' : 'Set position'}
              </Link>
            )}
          </div>
        </>
      )}
      <BuildNotes builds={builds} />
    </div>
  );
}

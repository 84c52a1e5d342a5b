import { useQueries } from '@tanstack/react-query';
import { FileUp, PencilLine, Route } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { metricPlane, outlineToRings, type Point } from '@restless-shoal/core/geo';
import { tripQuery, useContacts } from '../../api/queries';
import { BuildNotes } from '../../parts/build-notes';
import { WaterMap, type MapMark, type WaterMapController } from '../../parts/water-map';
import { useBoatState } from '../../state/boat';
import { useImporting } from '../../state/importing';
import { useBuilds } from '../../state/jobs';
import { useWaterState } from '../../state/water';
import { DrawPanel } from './draw-panel';
import { mapCover } from '../../parts/map-cover';
import { ShorePanel } from './shore-panel';
import { Toolbar, type ChartTool } from './toolbar';
import { chart as msg } from '../../words';

type Tool = 'draw' | 'drive' | 'import';
const TOOLS: ChartTool<Tool>[] = [
  { tool: 'draw', words: msg('sketchChart.draw'), icon: PencilLine },
  { tool: 'drive', words: msg('sketchChart.driveRound'), icon: Route },
  { tool: 'import', words: msg('sketchChart.import'), icon: FileUp },
];

/** So many trips' tracks are drawn. */
const TRACKS = 5;

/** A water of which no depth is known: its outline, what was driven and marked, and the ways to know more. */
export function SketchChart() {
  const { ground, water, log, running } = useWaterState();
  const [search, setSearch] = useSearchParams();
  const builds = useBuilds(water.id);
  const importing = useImporting();
  const contacts = useContacts(water.id);
  const { recorded, source } = useBoatState();
  const [map, setMap] = useState<WaterMapController | null>(null);
  const asked = search.get('tool');
  const tool = TOOLS.find((t) => t.tool === asked)?.tool ?? (water.outline ? null : 'draw');
  const choose = (next: Tool | null): void => {
    const out = new URLSearchParams(search);
    if (next === null) out.set('tool', 'none');
    else out.set('tool', next);
    setSearch(out, { replace: true });
  };
  const newest = useMemo(
    () => [...log.trips].sort((a, b) => b.start.localeCompare(a.start)).slice(0, TRACKS).map((t) => t.id), // prettier-ignore
    [log.trips],
  );
  const trips = useQueries({ queries: newest.map((id) => tripQuery(id)) });
  const plane = useMemo(() => (ground ? metricPlane(ground.epsg) : null), [ground]);
  const driven = trips.map((t) => t.dataUpdatedAt).join(' ');
  const tracks = useMemo((): Point[][] => {
    if (!plane) return [];
    const all = trips.map((t) => (t.data?.track ?? []).map((f) => plane.toMetric(f)));
    if (running) all.push(recorded.map((f) => plane.toMetric(f)));
    return all.filter((line) => line.length > 1);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what was read last, and the boat's news, stand for the tracks
  }, [plane, driven, running, source.boat]);
  const marks = useMemo(
    (): MapMark[] =>
      plane ? (contacts.data ?? []).map((c) => { const [x, y] = plane.toMetric(c); return { id: c.id, kind: c.kind, x, y }; }) : [], // prettier-ignore
    [plane, contacts.data],
  );
  const rings = useMemo(
    () => (plane && water.outline ? outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude })) : []),
    [plane, water.outline],
  );
  const cover = useMemo(() => (ground ? mapCover(water.cover, ground.epsg) : []), [ground, water.cover]);
  const next = !water.outline ? msg('sketchChart.drawTheOutlineDrive') : msg('sketchChart.whatWouldHelpMost');
  return (
    <WaterMap
      label={msg('sketchChart.mapOf', { name: water.name })}
      contours={NO_CONTOURS}
      tracks={tracks}
      marks={tool === 'draw' ? NO_MARKS : marks}
      cover={cover}
      onReady={setMap}
    >
      <div className="pointer-events-none absolute inset-y-3 left-3 flex w-[min(21.5rem,calc(100%-1.5rem))] flex-col gap-2 [&>*]:pointer-events-auto">
        <Toolbar
          tools={TOOLS}
          tool={tool}
          onTool={(own) => (own === 'import' ? importing(water.name) : choose(tool === own ? null : own))}
        />
        {tool === 'draw' && ground && (
          <section
            aria-label={msg('sketchChart.draw')}
            className="overflow-y-auto rounded-box border border-line bg-surface p-3 max-md:max-h-[46%]"
          >
            <DrawPanel
              map={map}
              epsg={ground.epsg}
              rings={rings}
              first={rings.length ? undefined : 'outline'}
              onBuilding={builds.watch}
              onFirst={() => choose(null)}
            />
          </section>
        )}
        {tool === 'drive' && (
          <section aria-label={msg('sketchChart.driveRound')} className="rounded-box border border-line bg-surface p-3">
            <ShorePanel epsg={ground?.epsg ?? null} onBuilding={builds.watch} />
          </section>
        )}
        <div className="!pointer-events-none flex-1" />
        <BuildNotes builds={builds} />
        {tool === null && <p className="rounded-box border border-line bg-surface p-3 text-sm max-md:mr-14">{next}</p>}
      </div>
    </WaterMap>
  );
}

const NO_CONTOURS: never[] = [];
const NO_MARKS: MapMark[] = [];

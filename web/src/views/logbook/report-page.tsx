import { ArrowLeft, FileDown, Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { Link } from 'react-router';
import { areaAt, BLUR_SIZES, blurCell, blurOf, metricPlane, outlineToRings, utmEpsg, type Blur } from '@restless-shoal/core/geo';
import { isOwnArea, namedAreas } from '@restless-shoal/core/logbook';
import { dayKey } from '../../parts/format';
import { saveFile } from '../../parts/save-file';
import { Segments } from '../../parts/segments';
import { Waiting } from '../../parts/waiting';
import { useOutbox } from '../../offline/device';
import { useWaterState } from '../../state/water';
import { formatLength, logbook as msg } from '../../words';
import { ReportDocument, REPORT_STYLE, type Report, type ReportPlaces } from './report-document';
import { reportFacts } from './report-facts';
import { useReportPhotos } from './report-photos';
import { useTripLog } from './use-trip-log';

type Told = 'left out' | 'blurred' | 'shown';

/** What was typed for the report of a trip, on this device. */
const keptAt = (trip: string): string => `report ${trip}`;

/** A trip as a page for the client: what it tells is chosen, then it is printed or saved. */
export function ReportPage({ id }: { id: string }) {
  const { water } = useWaterState();
  const { row, detail, readings, failed } = useTripLog(id);
  const photos = useReportPhotos(id, detail?.photos ?? null, useOutbox().waiting);
  const [withPhotos, setWithPhotos] = useState(true);
  const [told, setTold] = useState<Told>('left out');
  const [size, setSize] = useState<Blur>(1000);
  const [withCrew, setWithCrew] = useState(false);
  const [notes, setNotes] = useState<string | null>(null);
  const [next, setNext] = useState(() => localStorage.getItem(keptAt(id)) ?? '');
  const report = useMemo((): Report | null => {
    if (!detail || !row) return null;
    const facts = reportFacts(detail, readings);
    const stops = new Map(detail.stops.map((s) => [s.stop, s]));
    const contacts = new Map(detail.contacts.flatMap((c) => (c.contact === null ? [] : [[c.contact, c] as const])));
    const at = facts.landed.flatMap((r) => (r.contact !== null && contacts.get(r.contact)) || (r.stop !== null && stops.get(r.stop)) || []);
    const plane = water.outline && at.length && told !== 'left out' ? metricPlane(water.epsg ?? utmEpsg(at[0])) : null;
    const points = plane ? at.map((p) => plane.toMetric(p)) : [];
    // Told once a cell: how many fish it gave is nobody's business either.
    const places: ReportPlaces = { shown: told === 'shown' ? points : [], cells: [], areas: [] };
    if (plane && told === 'blurred') {
      const areas = size === 'areas' ? namedAreas(water.cover, plane.toMetric) : [];
      const inAreas = points.map((p) => areaAt(areas, p));
      const square = size === 'areas' ? BLUR_SIZES.at(-1)! : size;
      const cells = points.filter((_, k) => !inAreas[k]).map((p) => blurCell(p, square));
      places.areas = areas.filter((a) => inAreas.includes(a));
      places.cells = [...new Map(cells.map((c) => [JSON.stringify(c), c])).values()];
    }
    return {
      water: water.name,
      start: new Date(row.start),
      end: row.end === null ? null : new Date(row.end),
      zone: water.time_zone,
      crew: withCrew ? row.crew : null,
      anglers: withCrew,
      facts,
      notes: notes ?? '',
      next,
      photos: withPhotos ? (photos ?? []) : [],
      shore: plane ? outlineToRings(water.outline!, (longitude, latitude) => plane.toMetric({ latitude, longitude })) : null,
      places,
    };
  }, [detail, row, readings, water, told, size, withCrew, notes, next, photos, withPhotos]);
  if (!report || !row) return <Waiting what={msg('reportPage.theReport')} failed={failed} />;
  // Of the day alone: a name of a trip may tell where it was.
  const name = `trip-${dayKey(report.start, report.zone)}`;
  const save = (): void => {
    const body = renderToStaticMarkup(<ReportDocument report={report} />);
    const head = `<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${name}</title><style>body{margin:0;background:#fffdf6}${REPORT_STYLE}</style>`;
    saveFile(
      `${name}.html`,
      `<!doctype html><html lang="${document.documentElement.lang || 'en'}"><head>${head}</head><body>${body}</body></html>`,
      'text/html',
    );
  };
  return (
    <div className="h-full overflow-y-auto print:h-auto print:overflow-visible">
      <style>{REPORT_STYLE}</style>
      <div className="border-b border-line bg-surface p-4 print:hidden">
        <div className="mx-auto flex max-w-[46rem] flex-col gap-3">
          <div className="flex items-center gap-2">
            <Link className="btn btn-ghost touch-target px-2" to={`/logbook/${id}`} aria-label={msg('reportPage.backToTheTrip')}>
              <ArrowLeft aria-hidden />
            </Link>
            <h2 className="flex-1 text-xl font-bold">{msg('reportPage.reportForTheClient')}</h2>
          </div>
          <div className="flex flex-wrap items-center gap-3">
            <span className="text-mute">{msg('reportPage.spots')}</span>
            <div className="w-72">
              <Segments
                label={msg('reportPage.spots')}
                value={told}
                options={[
                  ['left out', msg('reportPage.leftOut')],
                  ['blurred', msg('reportPage.blurred')],
                  ['shown', msg('reportPage.shown')],
                ]}
                onChange={setTold}
              />
            </div>
            {told === 'blurred' && (
              <select
                aria-label={msg('reportPage.blurredTo')}
                className="select h-11 w-40"
                value={size}
                onChange={(e) => setSize(blurOf(e.target.value)!)}
              >
                {water.cover.some(isOwnArea) && <option value="areas">{msg('reportPage.myAreas')}</option>}
                {BLUR_SIZES.map((s) => (
                  <option key={s} value={s}>
                    {msg('reportPage.squares', { size: formatLength(s) })}
                  </option>
                ))}
              </select>
            )}
            {photos === null ? (
              <span className="text-mute">{msg('reportPage.photosStillCome')}</span>
            ) : (
              photos.length > 0 && (
                <label className="flex min-h-11 items-center gap-2">
                  <input type="checkbox" className="checkbox" checked={withPhotos} onChange={(e) => setWithPhotos(e.target.checked)} />
                  {msg('reportPage.withPhotos', { n: photos.length })}
                </label>
              )
            )}
            {(row.crew || detail!.responses.some((r) => r.angler)) && (
              <label className="flex min-h-11 items-center gap-2">
                <input type="checkbox" className="checkbox" checked={withCrew} onChange={(e) => setWithCrew(e.target.checked)} />
                {msg('reportPage.nameTheCrew')}
              </label>
            )}
          </div>
          <label>
            <span className="text-mute">{msg('reportPage.theDayInYour')}</span>
            <textarea
              className="textarea mt-1 w-full"
              rows={2}
              maxLength={2000}
              value={notes ?? ''}
              onChange={(e) => setNotes(e.target.value)}
            />
          </label>
          {row.notes && notes === null && (
            <button type="button" className="btn touch-target self-start" onClick={() => setNotes(row.notes)}>
              {msg('reportPage.takeTheNotes')}
            </button>
          )}
          <label>
            <span className="text-mute">{msg('reportPage.nextTime')}</span>
            <textarea
              className="textarea mt-1 w-full"
              rows={2}
              maxLength={2000}
              value={next}
              onChange={(e) => {
                setNext(e.target.value);
                localStorage.setItem(keptAt(id), e.target.value);
              }}
            />
          </label>
          <div className="flex flex-wrap gap-2">
            <button type="button" className="btn btn-primary h-12" onClick={() => window.print()}>
              <Printer size={18} aria-hidden /> {msg('reportPage.print')}
            </button>
            <button type="button" className="btn h-12" onClick={save}>
              <FileDown size={18} aria-hidden /> {msg('reportPage.saveAsHtml')}
            </button>
          </div>
        </div>
      </div>
      <div className="bg-[#fffdf6]">
        <ReportDocument report={report} />
      </div>
    </div>
  );
}

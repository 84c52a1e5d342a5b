import type OlMap from 'ol/Map';
import type { Point } from 'ol/geom';
import Translate from 'ol/interaction/Translate';
import type VectorImageLayer from 'ol/layer/VectorImage';
import type { Point as MetricPoint } from '@restless-shoal/core/geo';

/** A finger hits a mark from so far, px. */
const FINGER = 14;

/** Lets the marks of some layers be dragged. @param moved is told where one was let go, m @returns ends it */
export function letMarksMove(map: OlMap, layers: VectorImageLayer[], moved: (id: string, to: MetricPoint) => void): () => void {
  const mover = new Translate({ layers, hitTolerance: FINGER });
  mover.on('translateend', ({ features }) => {
    const mark = features.item(0);
    const [x, y] = (mark.getGeometry() as Point).getCoordinates();
    moved(String(mark.get('mark')), [x, y]);
  });
  map.addInteraction(mover);
  return () => void map.removeInteraction(mover);
}

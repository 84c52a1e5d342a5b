import Feature from 'ol/Feature';
import type OlMap from 'ol/Map';
import { LineString, Point, Polygon, type Geometry } from 'ol/geom';
import { Draw, Modify } from 'ol/interaction';
import VectorLayer from 'ol/layer/Vector';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style } from 'ol/style';
import type { Point as MetricPoint } from '@restless-shoal/core/geo';
import { css } from './signs';

export type DrawKind = 'Point' | 'LineString' | 'Polygon';

/** Lines and areas drawn by hand: for measuring, for placing cover, for the outline. */
export class Drawing {
  private readonly source = new VectorSource();
  private readonly layer = new VectorLayer({ source: this.source, zIndex: 20 });
  private draw: Draw | null = null;
  private dragging: Modify | null = null;
  /** Places one spot, for who does not point. */
  private placeSpot: ((point: MetricPoint) => void) | null = null;
  private lastByKey: MetricPoint | null = null;

  constructor(private readonly map: OlMap) {
    map.addLayer(this.layer);
    this.restyle();
  }

  get active(): boolean {
    return this.draw !== null;
  }

  restyle(): void {
    this.layer.setStyle(sketchStyle());
  }

  /**
   * Draws one shape. `onChange` is told its points while it grows and once it is done; a double press, or Enter
   * twice in one place, ends a line or an area. What was drawn stays and can be dragged by its points.
   */
  start(kind: DrawKind, onChange: (points: MetricPoint[], done: boolean) => void): void {
    this.stop();
    const draw = new Draw({ source: this.source, type: kind, style: sketchStyle(), stopClick: true });
    this.draw = draw;
    this.lastByKey = null;
    this.placeSpot =
      kind === 'Point'
        ? (point) => {
            this.source.clear();
            this.source.addFeature(new Feature(new Point(point)));
            this.settle((points) => onChange(points, true));
            onChange([point], true);
          }
        : null;
    this.map.addInteraction(draw);
    draw.on('drawstart', (event) => {
      this.source.clear();
      event.feature.getGeometry()!.on('change', (change) => onChange(pointsOf(change.target as Geometry), false));
    });
    draw.on('drawend', (event) => {
      const geometry = event.feature.getGeometry()!;
      onChange(pointsOf(geometry), true);
      // Only after OpenLayers is done with this very press.
      setTimeout(() => this.settle((points) => onChange(points, true)));
    });
  }

  /** Takes a ready shape to be dragged by its points. */
  edit(rings: MetricPoint[][], onChange: (rings: MetricPoint[][]) => void): void {
    this.stop();
    this.source.addFeature(new Feature(new Polygon(rings.map((ring) => [...ring, ring[0]]))));
    this.letDrag(() => {
      const polygon = this.source.getFeatures()[0].getGeometry() as Polygon;
      onChange(polygon.getCoordinates().map((ring) => ring.slice(0, -1) as MetricPoint[]));
    });
  }

  /** What was drawn stays, to be dragged by its points. */
  private settle(onChange: (points: MetricPoint[]) => void): void {
    this.endDraw();
    this.letDrag(() => onChange(pointsOf(this.source.getFeatures()[0].getGeometry()!)));
  }

  private letDrag(onEnd: () => void): void {
    this.dragging = new Modify({ source: this.source, style: sketchStyle() });
    this.dragging.on('modifyend', onEnd);
    this.map.addInteraction(this.dragging);
  }

  /** Adds a point by key, for those who do not point: the same place twice ends a line or an area. */
  addPoint(point: MetricPoint): void {
    if (this.placeSpot) return this.placeSpot(point);
    const again = this.lastByKey && Math.hypot(this.lastByKey[0] - point[0], this.lastByKey[1] - point[1]) < 0.01;
    if (again) return this.finish();
    this.lastByKey = point;
    this.draw?.appendCoordinates([point]);
  }

  /** Takes the last point back. */
  removeLast(): void {
    this.draw?.removeLastPoint();
  }

  /** Ends a line or an area with the points it has. */
  finish(): void {
    this.draw?.finishDrawing();
  }

  private endDraw(): void {
    if (this.draw) this.map.removeInteraction(this.draw);
    this.draw = null;
    this.placeSpot = null;
  }

  stop(): void {
    this.endDraw();
    if (this.dragging) this.map.removeInteraction(this.dragging);
    this.dragging = null;
    this.source.clear();
  }
}

function sketchStyle(): Style[] {
  const corners = new Circle({
    radius: 5,
    fill: new Fill({ color: css('--surface') }),
    stroke: new Stroke({ color: css('--fish'), width: 2.5 }),
  });
  return [
    new Style({ stroke: new Stroke({ color: css('--surface', 0.9), width: 6 }) }),
    new Style({
      image: corners,
      stroke: new Stroke({ color: css('--fish'), width: 2.5, lineDash: [9, 5] }),
      fill: new Fill({ color: css('--fish', 0.1) }),
    }),
  ];
}

function pointsOf(geometry: Geometry): MetricPoint[] {
  if (geometry instanceof Point) return [geometry.getCoordinates() as MetricPoint];
  if (geometry instanceof LineString) return geometry.getCoordinates() as MetricPoint[];
  if (geometry instanceof Polygon) return geometry.getCoordinates()[0].slice(0, -1) as MetricPoint[];
  return [];
}

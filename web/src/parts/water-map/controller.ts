import proj4 from 'proj4';
import Feature from 'ol/Feature';
import OlMap from 'ol/Map';
import View from 'ol/View';
import { getCenter } from 'ol/extent';
import { LineString, Point, Polygon } from 'ol/geom';
import ImageLayer from 'ol/layer/Image';
import VectorLayer from 'ol/layer/Vector';
import { get as getProjection } from 'ol/proj';
import { register } from 'ol/proj/proj4';
import ImageCanvasSource from 'ol/source/ImageCanvas';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Icon, Stroke, Style, Text } from 'ol/style';
import 'ol/ol.css';
import type { Chart, ContourLine } from '@restless-shoal/core/chart';
import { ringsBounds, type Point as MetricPoint, type Rings } from '@restless-shoal/core/geo';
import { themeColour } from '../../state/theme';
import { lensPath } from '../symbols';
import { chancePicture, depthPicture, unsurePicture, type PlacedPicture } from './pictures';

export interface MapMark {
  id: string;
  kind: string;
  x: number;
  y: number;
}

export interface MapPlace {
  number: number;
  x: number;
  y: number;
}

/** The chance layer: one value a cell, and the chance that is painted fully. */
export interface ChanceLayer {
  probability: Float32Array;
  low: Float32Array;
  high: Float32Array;
  full: number;
}

/** From this many metres a pixel outward, marks are dots: a season's worth of signs would hide the water. */
const SIGNS_FROM = 2.2;

const css = (name: string, alpha = 1): string => `rgba(${themeColour(name).join(',')},${alpha})`;
const FONT = '"Atkinson Hyperlegible Next Variable", sans-serif';

/** Draws pictures of the plane into a canvas that OpenLayers asks for, clipped to the water. */
function pictureSource(
  projection: string,
  rings: Rings,
  draw: (context: CanvasRenderingContext2D, place: (picture: PlacedPicture, smooth: boolean) => void, size: [number, number]) => void,
): ImageCanvasSource {
  return new ImageCanvasSource({
    projection,
    ratio: 1.2,
    canvasFunction: (extent, resolution, pixelRatio, size) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = size;
      const context = canvas.getContext('2d')!;
      const scale = pixelRatio / resolution;
      const toX = (x: number): number => (x - extent[0]) * scale;
      const toY = (y: number): number => (extent[3] - y) * scale;
      context.beginPath();
      for (const ring of rings) {
        ring.forEach(([x, y], i) => (i ? context.lineTo(toX(x), toY(y)) : context.moveTo(toX(x), toY(y))));
        context.closePath();
      }
      context.clip('evenodd');
      draw(
        context,
        ({ canvas: picture, extent: [x0, y0, x1, y1] }, smooth) => {
          context.imageSmoothingEnabled = smooth;
          context.imageSmoothingQuality = 'high';
          context.drawImage(picture, toX(x0), toY(y1), (x1 - x0) * scale, (y1 - y0) * scale);
        },
        [size[0], size[1]],
      );
      return canvas;
    },
  });
}

/** A map of one water in its own metric plane: no tiles from anywhere. */
export class WaterMapController {
  readonly map: OlMap;
  private readonly depthLayer: ImageLayer<ImageCanvasSource>;
  private readonly chanceLayer: ImageLayer<ImageCanvasSource>;
  private readonly contourSource = new VectorSource();
  private readonly shoreSource = new VectorSource();
  private readonly markSource = new VectorSource();
  private readonly dotSource = new VectorSource();
  private readonly markDots: VectorLayer;
  private readonly placeSource = new VectorSource();
  private readonly pointSource = new VectorSource();
  private depth: PlacedPicture | null = null;
  private chance: { picture: PlacedPicture; unsure: PlacedPicture } | null = null;
  private contours: ContourLine[] = [];
  private marks: MapMark[] = [];

  constructor(
    target: HTMLElement,
    private readonly chart: Chart,
    private readonly rings: Rings,
    /** Room that other things take at the top, right, bottom and left, px. */
    private readonly padding: [number, number, number, number],
  ) {
    const projection = `EPSG:${chart.epsg}`;
    if (!getProjection(projection)) {
      proj4.defs(
        projection,
        `+proj=utm +zone=${chart.epsg % 100}${Math.floor(chart.epsg / 100) === 327 ? ' +south' : ''} +datum=WGS84 +units=m +no_defs`,
      );
      register(proj4);
    }
    this.depthLayer = new ImageLayer({ source: pictureSource(projection, rings, (_, place) => this.depth && place(this.depth, true)) });
    this.chanceLayer = new ImageLayer({
      source: pictureSource(projection, rings, (context, place, size) => this.drawChance(context, place, size)),
    });
    const layers = [this.contourSource, this.shoreSource, this.markSource, this.placeSource, this.pointSource].map(
      (source) => new VectorLayer({ source, declutter: source === this.contourSource }),
    );
    this.markDots = new VectorLayer({ source: this.dotSource, minResolution: SIGNS_FROM });
    layers[2].setMaxResolution(SIGNS_FROM);
    const bounds = ringsBounds(rings);
    this.map = new OlMap({
      target,
      controls: [],
      layers: [this.depthLayer, this.chanceLayer, ...layers.slice(0, 2), this.markDots, ...layers.slice(2)],
      view: new View({ projection, center: getCenter(bounds), resolution: 8, minResolution: 0.2, maxResolution: 80 }),
    });
    this.fit();
    this.restyle();
  }

  /** Shows all of the water. */
  fit(): void {
    this.map.getView().fit(ringsBounds(this.rings), { padding: this.padding });
  }

  private drawChance(
    context: CanvasRenderingContext2D,
    place: (picture: PlacedPicture, smooth: boolean) => void,
    [width, height]: [number, number],
  ): void {
    if (!this.chance) return;
    // Hatch in screen pixels, kept where the forecast is unsure.
    place(this.chance.unsure, false);
    context.globalCompositeOperation = 'source-in';
    context.strokeStyle = css('--ink', 0.5);
    context.lineWidth = 1.5;
    const pattern = document.createElement('canvas');
    pattern.width = pattern.height = 9;
    const p = pattern.getContext('2d')!;
    p.strokeStyle = css('--ink', 0.55);
    p.lineWidth = 1.3;
    p.beginPath();
    p.moveTo(-2, 11);
    p.lineTo(11, -2);
    p.moveTo(-2, 2);
    p.lineTo(2, -2);
    p.moveTo(7, 11);
    p.lineTo(11, 7);
    p.stroke();
    context.fillStyle = context.createPattern(pattern, 'repeat')!;
    context.fillRect(0, 0, width, height);
    context.globalCompositeOperation = 'destination-over';
    place(this.chance.picture, true);
    context.globalCompositeOperation = 'source-over';
  }

  /** Draws everything anew in the colours of the theme. */
  restyle(): void {
    this.setContours(this.contours);
    this.setMarks(this.marks);
    this.shoreSource.clear();
    const shore = new Feature(new Polygon(this.rings.map((ring) => [...ring, ring[0]])));
    shore.setStyle(new Style({ stroke: new Stroke({ color: css('--ink', 0.75), width: 1.6 }) }));
    this.shoreSource.addFeature(shore);
  }

  setDepth(band: [number, number] | null): void {
    this.depth = depthPicture(this.chart.depth, this.chart.deepest, band);
    this.depthLayer.getSource()!.changed();
  }

  setChance(layer: ChanceLayer | null): void {
    this.chance = layer && {
      picture: chancePicture(this.chart.cells, layer.probability, layer.full),
      unsure: unsurePicture(this.chart.cells, layer.low, layer.high, layer.full),
    };
    this.chanceLayer.getSource()!.changed();
  }

  setContours(lines: ContourLine[]): void {
    this.contours = lines;
    this.contourSource.clear();
    const text = new Fill({ color: css('--ink', 0.95) });
    const halo = new Stroke({ color: css('--ground', 0.75), width: 3 });
    this.contourSource.addFeatures(
      lines.map(({ depth, points }) => {
        const feature = new Feature(new LineString(points));
        feature.setStyle(
          new Style({
            stroke: new Stroke({ color: css('--ink', 0.3), width: 1 }),
            text:
              points.length > 24
                ? new Text({ text: String(depth), placement: 'line', font: `600 12px ${FONT}`, fill: text, stroke: halo, maxAngle: 0.5 })
                : undefined,
          }),
        );
        return feature;
      }),
    );
  }

  setMarks(marks: MapMark[]): void {
    this.marks = marks;
    const fill = (source: VectorSource, make: (kind: string) => Style): void => {
      const styles = new Map<string, Style>();
      source.clear();
      source.addFeatures(
        marks.map(({ id, kind, x, y }) => {
          const feature = new Feature({ geometry: new Point([x, y]), mark: id });
          const style = styles.get(kind) ?? make(kind);
          styles.set(kind, style);
          feature.setStyle(style);
          return feature;
        }),
      );
    };
    fill(this.markSource, markStyle);
    fill(this.dotSource, dotStyle);
  }

  setPlaces(places: MapPlace[], chosen: number | null): void {
    this.placeSource.clear();
    this.placeSource.addFeatures(
      places.map(({ number, x, y }) => {
        const feature = new Feature({ geometry: new Point([x, y]), place: number });
        const on = number === chosen;
        feature.setStyle(
          new Style({
            image: new Circle({
              radius: on ? 16 : 13,
              fill: new Fill({ color: on ? css('--ink') : css('--surface') }),
              stroke: new Stroke({ color: css('--ink'), width: 2 }),
            }),
            text: new Text({
              text: String(number),
              font: `700 15px ${FONT}`,
              fill: new Fill({ color: on ? css('--surface') : css('--ink') }),
              offsetY: 1,
            }),
            zIndex: on ? 2 : 1,
          }),
        );
        return feature;
      }),
    );
  }

  /** Marks the point that is looked at. */
  setPoint(point: MetricPoint | null): void {
    this.pointSource.clear();
    if (!point) return;
    const feature = new Feature(new Point(point));
    feature.setStyle([
      new Style({ image: new Circle({ radius: 9, stroke: new Stroke({ color: css('--surface'), width: 5 }) }) }),
      new Style({ image: new Circle({ radius: 9, stroke: new Stroke({ color: css('--ink'), width: 2.5 }) }) }),
    ]);
    this.pointSource.addFeature(feature);
  }

  /** Moves the map to a point, no farther out than 2 m a pixel. */
  goTo([x, y]: MetricPoint): void {
    const view = this.map.getView();
    view.animate({ center: [x, y], resolution: Math.min(view.getResolution() ?? 4, 2), duration: 250 });
  }

  zoomBy(factor: number): void {
    const view = this.map.getView();
    view.animate({ resolution: (view.getResolution() ?? 8) * factor, duration: 120 });
  }

  onHover(listener: (point: MetricPoint | null) => void): void {
    this.map.on('pointermove', (event) => listener(event.dragging ? null : (event.coordinate as MetricPoint)));
    this.map.getViewport()!.addEventListener('pointerleave', () => listener(null));
  }

  /** A press on the map, or Enter for its middle. */
  onPick(listener: (point: MetricPoint, place: number | null) => void): void {
    this.map.on('singleclick', (event) => {
      const place = this.map.forEachFeatureAtPixel(event.pixel, (f) => f.get('place') as number | undefined, { hitTolerance: 6 });
      listener(event.coordinate as MetricPoint, place ?? null);
    });
    this.map.getTargetElement()!.addEventListener('keydown', (event) => {
      if (event.key === 'Enter') listener(this.map.getView().getCenter() as MetricPoint, null);
    });
  }

  dispose(): void {
    this.map.setTarget(undefined);
    this.map.dispose();
  }
}

function svgIcon(body: string, width: number, height: number): Icon {
  return new Icon({
    src: `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${body}</svg>`)}`,
  });
}

/** Small enough that a season of marks still shows the bottom; bait is an open dot, fish a full one. */
function dotStyle(kind: string): Style {
  const colour =
    kind === 'fish' ? '--fish' : kind === 'bait' ? '--bait' : kind === 'thermocline' ? '--therm' : kind === 'hazard' ? '--warn' : '--cover';
  const image =
    kind === 'fish'
      ? new Circle({ radius: 1.9, fill: new Fill({ color: css(colour, 0.85) }) })
      : new Circle({ radius: 1.6, stroke: new Stroke({ color: css(colour, 0.9), width: 1.1 }) });
  return new Style({ image, zIndex: kind === 'fish' ? 2 : 1 });
}

function markStyle(kind: string): Style {
  const halo = css('--surface', 0.9);
  if (kind === 'fish')
    return new Style({
      image: svgIcon(`<path d="${lensPath(10, 7, 7)}" fill="${css('--fish')}" stroke="${halo}" stroke-width="1.2"/>`, 21, 14),
      zIndex: 3,
    });
  if (kind === 'bait')
    return new Style({
      image: svgIcon(
        [
          [3, 4],
          [7, 2],
          [11, 5],
          [5, 8],
          [9, 9],
        ]
          .map(([x, y]) => `<circle cx="${x}" cy="${y}" r="1.7" fill="${css('--bait')}" stroke="${halo}" stroke-width=".7"/>`)
          .join(''),
        14,
        12,
      ),
      zIndex: 2,
    });
  if (kind === 'blank')
    return new Style({
      image: new Circle({
        radius: 5,
        stroke: new Stroke({ color: css('--ink'), width: 2 }),
        fill: new Fill({ color: css('--surface', 0.5) }),
      }),
      zIndex: 1,
    });
  if (kind === 'cover' || kind === 'weed')
    return new Style({
      image: svgIcon(
        `<path d="M2 12L5 4L7 8L9 1L12 12Z" fill="${css('--cover', 0.5)}" stroke="${css('--cover')}" stroke-width="1.5"/>`,
        14,
        14,
      ),
      zIndex: 1,
    });
  if (kind === 'hazard')
    return new Style({
      image: svgIcon(`<path d="M8 2L15 14H1Z" fill="${halo}" stroke="${css('--warn')}" stroke-width="2"/>`, 16, 16),
      zIndex: 4,
    });
  return new Style({ image: new Circle({ radius: 4, fill: new Fill({ color: css('--therm') }) }), zIndex: 1 });
}

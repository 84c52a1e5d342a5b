import proj4 from 'proj4';
import Feature from 'ol/Feature';
import OlMap from 'ol/Map';
import View from 'ol/View';
import { getCenter } from 'ol/extent';
import { LineString, Point, Polygon } from 'ol/geom';
import ImageLayer from 'ol/layer/Image';
import VectorLayer from 'ol/layer/Vector';
import VectorImageLayer from 'ol/layer/VectorImage';
import { get as getProjection } from 'ol/proj';
import { register } from 'ol/proj/proj4';
import type ImageCanvasSource from 'ol/source/ImageCanvas';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import 'ol/ol.css';
import type { Chart, ChartFeature, ContourLine } from '@restless-shoal/core/chart';
import { ringsBounds, type Point as MetricPoint, type Raster, type Rings } from '@restless-shoal/core/geo';
import { Drawing } from './drawing';
import {
  changePicture,
  chancePicture,
  depthPicture,
  doubtPicture,
  fallsPicture,
  hardMask,
  hardnessPicture,
  unsurePicture,
  type PlacedPicture,
} from './pictures';
import { patterned, pictureSource, soundingsSource, type DrawnSoundings } from './sheets';
import { contourFeatures, coverFeature, EMPTY_REACH, runFeatures, squares, type MapCover } from './map-features';
import type { ChanceLayer, MapHit, MapMark, MapPlace } from './map-things';
import { letMarksMove } from './moving-marks';
import { css, dotStyle, FONT, markStyle, shapeStyle } from './signs';

/** From this many metres a pixel outward, marks are dots: a season's worth of signs would hide the water. */
const SIGNS_FROM = 2.2;

/** Draws a layer anew; one that holds nothing costs nothing. */
function show(layer: ImageLayer<ImageCanvasSource>, something: boolean): void {
  layer.setVisible(something);
  layer.getSource()!.changed();
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
  private readonly overlayLayer: ImageLayer<ImageCanvasSource>;
  private readonly tripLayer: ImageLayer<ImageCanvasSource>;
  private readonly soundingsLayer: ImageLayer<ImageCanvasSource>;
  private readonly contourLayer: VectorImageLayer;
  private readonly markSigns: VectorImageLayer;
  private readonly markDots: VectorImageLayer;
  private readonly shapeLayer: VectorImageLayer;
  private readonly coverLayer: VectorImageLayer;
  private readonly hazardLayer: VectorImageLayer;
  private readonly shapeSource = new VectorSource();
  private readonly coverSource = new VectorSource();
  private readonly hazardSource = new VectorSource();
  private readonly signSource = new VectorSource();
  private readonly trackSource = new VectorSource();
  private readonly runSource = new VectorSource();
  private readonly placeSource = new VectorSource();
  private readonly pointSource = new VectorSource();
  private depth: PlacedPicture | null = null;
  private chance: { picture: PlacedPicture; unsure: PlacedPicture } | null = null;
  private overlay: { picture: PlacedPicture; hard: PlacedPicture | null } | null = null;
  private trip: PlacedPicture | null = null;
  private drawn: { soundings: DrawnSoundings | null; freshOnly: boolean } = { soundings: null, freshOnly: false };
  private contours: { lines: ContourLine[]; unit: number } = { lines: [], unit: 1 };
  private marks: MapMark[] = [];
  private shapes: { list: ChartFeature[]; chosen: ChartFeature | null } = { list: [], chosen: null };
  private cover: MapCover[] = [];
  readonly drawing: Drawing;
  /** Ends that marks can be dragged; null while they cannot. */
  private stay: (() => void) | null = null;
  /** Where the whole of the water was last shown; null before. */
  private whole: { center: number[]; resolution: number } | null = null;

  constructor(
    target: HTMLElement,
    private chart: Chart,
    private rings: Rings,
    /** Room that other things take at the top, right, bottom and left, px: of several ways to leave it the one that shows the water largest is taken. */
    private readonly paddings: [number, number, number, number][],
  ) {
    const projection = `EPSG:${chart.epsg}`;
    if (!getProjection(projection)) {
      proj4.defs(
        projection,
        `+proj=utm +zone=${chart.epsg % 100}${Math.floor(chart.epsg / 100) === 327 ? ' +south' : ''} +datum=WGS84 +units=m +no_defs`,
      );
      register(proj4);
    }
    this.depthLayer = new ImageLayer({
      source: pictureSource(
        projection,
        () => this.rings,
        (_, place) => this.depth && place(this.depth, true),
      ),
    });
    this.chanceLayer = new ImageLayer({
      source: pictureSource(
        projection,
        () => this.rings,
        (context, place, size) => {
          if (this.chance)
            patterned(context, place, size, {
              mask: this.chance.unsure,
              under: this.chance.picture,
              kind: 'hatch',
              colour: css('--ink', 0.55),
            });
        },
      ),
    });
    this.overlayLayer = new ImageLayer({
      source: pictureSource(
        projection,
        () => this.rings,
        (context, place, size) => {
          if (this.overlay?.hard)
            patterned(context, place, size, {
              mask: this.overlay.hard,
              under: this.overlay.picture,
              kind: 'stipple',
              colour: css('--ink', 0.6),
            });
          else if (this.overlay) place(this.overlay.picture, true);
        },
      ),
    });
    this.tripLayer = new ImageLayer({
      source: pictureSource(
        projection,
        () => null,
        (_, place) => this.trip && place(this.trip, true),
      ),
    });
    this.soundingsLayer = new ImageLayer({ source: soundingsSource(projection, () => this.drawn), visible: false });
    // What stands still is drawn once as a picture and carried along with the map: panning stays smooth.
    const still = (source: VectorSource, declutter = false): VectorImageLayer =>
      new VectorImageLayer({ source, declutter, imageRatio: 1.5 });
    this.contourLayer = still(this.contourSource, true);
    this.markSigns = still(this.markSource);
    this.markSigns.setMaxResolution(SIGNS_FROM);
    this.markDots = still(this.dotSource);
    this.markDots.setMinResolution(SIGNS_FROM);
    this.shapeLayer = still(this.shapeSource);
    this.coverLayer = still(this.coverSource);
    this.hazardLayer = still(this.hazardSource, true);
    const live = (source: VectorSource): VectorLayer => new VectorLayer({ source });
    const bounds = this.bounds();
    this.map = new OlMap({
      target,
      controls: [],
      layers: [
        this.depthLayer,
        this.overlayLayer,
        this.chanceLayer,
        this.tripLayer,
        this.contourLayer,
        still(this.shoreSource),
        this.soundingsLayer,
        this.shapeLayer,
        this.coverLayer,
        this.markDots,
        this.markSigns,
        // A season of marks may hide cover, but never a hazard.
        this.hazardLayer,
        still(this.trackSource),
        live(this.runSource),
        new VectorLayer({ source: this.signSource, declutter: true }),
        live(this.placeSource),
        live(this.pointSource),
      ],
      view: new View({ projection, center: getCenter(bounds), resolution: 8, minResolution: 0.2, maxResolution: 80 }),
    });
    this.drawing = new Drawing(this.map);
    this.fit();
    // A panel that opens beside the map must not cut the water off, unless somebody has looked elsewhere.
    this.map.on('change:size', () => {
      const [width, height] = this.map.getSize() ?? [0, 0];
      if (Math.min(width, height) > 200 && this.showsWhole()) this.fit();
    });
    this.restyle();
  }

  /** Takes up another build of the same water: the view, and what is being drawn by hand, stay as they are. */
  setChart(chart: Chart, rings: Rings): void {
    if (chart === this.chart && rings === this.rings) return;
    const first = !this.rings.length && rings.length > 0;
    this.chart = chart;
    this.rings = rings;
    this.restyle();
    // A first outline is shown as a whole.
    if (first) this.fit();
  }

  /** Shows all of the water. */
  fit(): void {
    const view = this.map.getView();
    let best: { center: number[]; resolution: number } | null = null;
    for (const padding of this.paddings) {
      view.fit(this.bounds(), { padding });
      const resolution = view.getResolution()!;
      if (!best || resolution < best.resolution) best = { center: view.getCenter()!, resolution };
    }
    view.setCenter(best!.center);
    view.setResolution(best!.resolution);
    this.whole = { center: view.getCenter()!, resolution: view.getResolution()! };
  }

  /** What the whole of the water is: its shores, or some hundred metres round the place where it is said to lie. */
  private bounds(): [number, number, number, number] {
    if (this.rings.length) return ringsBounds(this.rings);
    const { x0, y0 } = this.chart.depth;
    return [x0 - EMPTY_REACH, y0 - EMPTY_REACH, x0 + EMPTY_REACH, y0 + EMPTY_REACH];
  }

  private showsWhole(): boolean {
    const view = this.map.getView();
    const [x, y] = view.getCenter()!;
    return (
      this.whole !== null && view.getResolution() === this.whole.resolution && x === this.whole.center[0] && y === this.whole.center[1]
    );
  }

  /** Draws everything anew in the colours of the theme. */
  restyle(): void {
    this.setContours(this.contours.lines, this.contours.unit);
    this.setMarks(this.marks);
    this.setShapes(this.shapes.list, this.shapes.chosen);
    this.setCover(this.cover);
    this.soundingsLayer.getSource()!.changed();
    this.drawing.restyle();
    this.shoreSource.clear();
    if (!this.rings.length) {
      this.shoreSource.addFeatures(squares(this.chart.depth.x0, this.chart.depth.y0));
      return;
    }
    const shore = new Feature(new Polygon(this.rings.map((ring) => [...ring, ring[0]])));
    shore.setStyle(
      new Style({
        stroke: new Stroke({ color: css('--ink', 0.75), width: 1.6 }),
        // Water whose depth nobody knows yet is still water.
        fill: this.chart.soundings ? undefined : new Fill({ color: css('--w1', 0.55) }),
      }),
    );
    this.shoreSource.addFeature(shore);
  }

  setDepth(band: [number, number] | null, relief = true): void {
    this.depth = depthPicture(this.chart.depth, this.chart.deepest, band, relief);
    this.depthLayer.getSource()!.changed();
  }

  /** Lays hardness, or how sure the chart is, over the depth. */
  setOverlay(kind: 'hardness' | 'doubt' | null): void {
    const { hardness, quality } = this.chart;
    this.overlay =
      kind === 'hardness'
        ? { picture: hardnessPicture(hardness), hard: hardMask(hardness) }
        : kind === 'doubt'
          ? { picture: doubtPicture(quality), hard: null }
          : null;
    show(this.overlayLayer, this.overlay !== null);
  }

  setSoundings(soundings: DrawnSoundings | null, freshOnly: boolean): void {
    this.drawn = { soundings, freshOnly };
    show(this.soundingsLayer, soundings !== null);
  }

  /** The trip's own chart, over the water's. */
  setTrip(depth: Raster | null): void {
    this.trip = depth && depthPicture(depth, this.chart.deepest, null);
    show(this.tripLayer, depth !== null);
  }

  setShapes(list: ChartFeature[], chosen: ChartFeature | null): void {
    this.shapes = { list, chosen };
    this.shapeLayer.setVisible(list.length > 0);
    this.shapeSource.clear();
    this.shapeSource.addFeatures(
      list.map((shape) => {
        const { edge } = shape;
        const geometry = edge.type === 'area' ? new Polygon([[...edge.ring, edge.ring[0]]]) : new LineString(edge.points);
        const feature = new Feature({ geometry, shape });
        feature.setStyle(shapeStyle(shape.kind, shape === chosen));
        return feature;
      }),
    );
  }

  setCover(cover: MapCover[]): void {
    this.cover = cover;
    // What must be read lies over the marks of many trips; signs can be pressed too.
    const sheetOf = (c: MapCover): VectorSource =>
      c.sign !== undefined ? this.signSource : c.kind === 'hazard' || c.kind === 'area' ? this.hazardSource : this.coverSource;
    for (const source of [this.hazardSource, this.coverSource, this.signSource]) {
      source.clear();
      source.addFeatures(cover.filter((c) => sheetOf(c) === source).map(coverFeature));
    }
  }

  setChance(layer: ChanceLayer | null): void {
    const { cells } = this.chart;
    this.chance =
      layer &&
      (layer.change
        ? { picture: changePicture(cells, layer.change, layer.full), unsure: fallsPicture(cells, layer.change, layer.full) }
        : {
            picture: chancePicture(cells, layer.probability, layer.full),
            unsure: unsurePicture(cells, layer.low, layer.high, layer.full),
          });
    show(this.chanceLayer, layer !== null);
  }

  /** @param unit length of the unit the labels are in, m */
  setContours(lines: ContourLine[], unit = 1): void {
    this.contours = { lines, unit };
    this.contourSource.clear();
    this.contourSource.addFeatures(contourFeatures(lines, unit));
  }

  setMarks(marks: MapMark[]): void {
    this.marks = marks;
    for (const layer of [this.markDots, this.markSigns]) layer.setVisible(marks.length > 0);
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

  /** Lets marks be dragged to where they belong. @param moved is told where one was let go, m; null: they stay where they are */
  moveMarks(moved: ((id: string, to: MetricPoint) => void) | null): void {
    this.stay?.();
    this.stay = moved && letMarksMove(this.map, [this.markSigns, this.markDots], moved);
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

  /** Ways that were driven. */
  setTracks(tracks: MetricPoint[][]): void {
    this.trackSource.clear();
    this.trackSource.addFeatures(
      tracks.map((points) => {
        const line = new Feature(new LineString(points));
        line.setStyle(new Style({ stroke: new Stroke({ color: css('--act', 0.8), width: 2, lineDash: [2, 5] }) }));
        return line;
      }),
    );
  }

  /** Lines that the boat is to go along. */
  setRuns(runs: MetricPoint[][]): void {
    this.runSource.clear();
    this.runSource.addFeatures(runFeatures(runs));
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

  /** Moves the map to a point, no farther out than 2 m a pixel; to show so many metres round it, where that is said. */
  goTo([x, y]: MetricPoint, reach?: number): void {
    const view = this.map.getView();
    const [width, height] = this.map.getSize() ?? [400, 400];
    const resolution = reach ? (2 * reach) / Math.min(width, height) : Math.min(view.getResolution() ?? 4, 2);
    view.animate({ center: [x, y], resolution, duration: 250 });
  }

  zoomBy(factor: number): void {
    const view = this.map.getView();
    view.animate({ resolution: (view.getResolution() ?? 8) * factor, duration: 120 });
  }

  onHover(listener: (point: MetricPoint | null) => void): void {
    this.map.on('pointermove', (event) => listener(event.dragging ? null : (event.coordinate as MetricPoint)));
    this.map.getViewport()!.addEventListener('pointerleave', () => listener(null));
  }

  /** A press on the map, or Enter for its middle: what was hit goes with it. */
  onPick(listener: (point: MetricPoint, hit: MapHit) => void): void {
    const hitAt = (pixel: number[]): MapHit => {
      const hit = <T>(key: string): T | null =>
        this.map.forEachFeatureAtPixel(pixel, (f) => f.get(key) as T | undefined, { hitTolerance: 6 }) ?? null;
      return { place: hit('place'), shape: hit('shape'), mark: hit('mark'), sign: hit('sign') };
    };
    this.map.on('singleclick', (event) => {
      if (!this.drawing.active) listener(event.coordinate as MetricPoint, hitAt(event.pixel));
    });
    this.map.getTargetElement()!.addEventListener('keydown', (event) => {
      const middle = this.map.getView().getCenter() as MetricPoint;
      if (event.key !== 'Enter') return;
      if (this.drawing.active) this.drawing.addPoint(middle);
      else listener(middle, hitAt(this.map.getPixelFromCoordinate(middle)));
    });
  }

  /** Metres on the water to a pixel of the screen. */
  resolution(): number {
    return this.map.getView().getResolution() ?? 1;
  }

  onZoom(listener: () => void): void {
    this.map.getView().on('change:resolution', listener);
  }

  dispose(): void {
    this.map.setTarget(undefined);
    this.map.dispose();
  }
}

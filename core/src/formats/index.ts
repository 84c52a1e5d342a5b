/** Open formats: readers and writers, streaming, tolerant, exact about what they skip. */
export { csvRows, csvLine, guarded, FormatError, type CsvRow, type TableForm } from './csv';
export {
  readRecord,
  emptyReport,
  addFinding,
  emptyFindings,
  type FileReport,
  type Finding,
  type FindingList,
  type PlacedRow,
} from './record-reader';
export { readGeoJson, readOutline, readCover } from './geojson';
export { readWaterFile, WATER_SETTINGS, type WaterFile } from './water-file';
export { packParts, unpackParts } from './binary';
export { packTables, unpackTables, type PlainRow } from './columns';
export { readNmea, NmeaReader, readSentence, nmeaSentence, type Sentence } from './nmea';
export { LiveNmea, type BoatNews } from './nmea-live';
export { readEcho, writeEcho, type Echo, type ForwardEcho, type SideScanEcho, type SounderEcho } from './echo-stream';
export { readGpx, coverOfWaypoint, gpxOf, type GpxPlace, type GpxRoute, type Waypoint } from './gpx';
export { readTideTable, type TideFault, type TidePart } from './tide-table';

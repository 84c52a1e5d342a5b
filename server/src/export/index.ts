/** A water out: records as CSV and GeoJSON, charts as GeoTIFF, marks as GPX. */
export { exportShared, exportSharedFolder, sharedFiles } from './shared';
export { EXPORT_FILES, exportFile, exportFolder, exportZip, type ExportFile } from './export';

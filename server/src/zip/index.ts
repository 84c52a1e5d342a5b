/** ZIP files: read by their own list of what they hold, written as it comes; both stream. */
export { openZip, type ZipLimits, type ZipEntry } from './read-zip';
export { writeZip, type AddFile } from './write-zip';

/** Files of the installation. */
export { onDisk, writeWhole } from './write-whole';

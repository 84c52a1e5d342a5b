/** What the sonar can and cannot show: beams, side-scan. */
export { Bench } from './bench';

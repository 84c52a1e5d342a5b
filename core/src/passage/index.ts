/** Search passes: ways over the water that leave little of it unseen. */
export { sPass, type SPass } from './s-pass';

export { isBare, keepPicture, type KeptPicture } from './picture';

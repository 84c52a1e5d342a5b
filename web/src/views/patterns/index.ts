export { Patterns } from './patterns';

export { WatersView } from './waters';
export { FirstStart } from './first-start';

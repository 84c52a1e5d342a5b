export { ChartView } from './chart';

export { ChartView, NoChart, useContours } from './chart';

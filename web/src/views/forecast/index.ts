export { ForecastView } from './forecast';

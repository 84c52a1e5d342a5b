export { Plan } from './plan';

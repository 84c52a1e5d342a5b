export { Deck } from './deck';

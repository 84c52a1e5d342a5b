/** On the water: search passes that leave little unseen, the way back to a mark, whether it is worth a stop. */
export { sPass, type SPass } from './s-pass';
export { goBack, holdOff, mayHaveMoved, strategyMayHaveMoved, type GoBack } from './approach';
export { worthStopping, type Advice, type AdviceCode, type Prospect } from './worth-stopping';

import type { DepthSpan } from '../../parts/records/column-gesture';
import type { DeckSheet } from './deck-sheets';
import type { Kind } from '../../parts/records/kinds';

/** What is chosen on the Deck while a trip runs: nothing of the log, which is elsewhere. */
export interface DeckState {
  /** Pad or sonar picture. */
  screen: 'pad' | 'picture';
  /** What is marked next, how many, and how deep where somebody said so. */
  kind: Kind;
  count: number;
  touched: DepthSpan | null;
  /** How far down the Column goes where the depth is not known, m; null as the water says. */
  reach: number | null;
  /** With a stop open: what the fish did, or marking. */
  side: 'stop' | 'mark';
  sheet: DeckSheet | null;
  /** The entry of the day and the response that are open, by key and id. */
  opened: string | null;
  response: string | null;
  /** The entry or planned place that the boat is led to. */
  goingTo: string | null;
}

export type DeckAction =
  | { type: 'kind'; kind: Kind }
  | { type: 'count'; count: number }
  | { type: 'touched'; span: DepthSpan }
  | { type: 'reach'; reach: number }
  | { type: 'screen' }
  | { type: 'side'; side: DeckState['side'] }
  | { type: 'fishing' }
  | { type: 'sheet'; sheet: DeckSheet | null }
  | { type: 'open'; entry: string | null }
  | { type: 'response'; response: string | null }
  | { type: 'go'; to: string | null };

export const startOfTrip: DeckState = {
  screen: 'pad',
  kind: 'fish',
  count: 1,
  touched: null,
  reach: null,
  side: 'stop',
  sheet: null,
  opened: null,
  response: null,
  goingTo: null,
};

export function deckReducer(state: DeckState, action: DeckAction): DeckState {
  switch (action.type) {
    case 'kind':
      return { ...state, kind: action.kind };
    case 'count':
      return { ...state, count: action.count };
    case 'touched':
      return { ...state, touched: action.span };
    case 'reach':
      return { ...state, reach: action.reach };
    case 'screen':
      return { ...state, screen: state.screen === 'pad' ? 'picture' : 'pad' };
    case 'side':
      return { ...state, side: action.side };
    // A stop begins with what the fish do, whatever was shown at the last one.
    case 'fishing':
      return { ...state, side: 'stop' };
    case 'sheet':
      return { ...state, sheet: action.sheet };
    case 'open':
      return { ...state, opened: action.entry };
    case 'response':
      return { ...state, response: action.response };
    case 'go':
      return { ...state, goingTo: action.to };
  }
}

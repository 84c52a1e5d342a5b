/** What the boat's instruments say. */
export { Feed, type FeedSettings, type FeedState } from './feed';

import { LANGUAGES, loadWords, preferred, type Language } from '../words';
import { shared } from './shared';

const kept = localStorage.getItem('language');
const chosen = shared<Language>(kept !== null && kept in LANGUAGES ? (kept as Language) : preferred(navigator.languages));

async function speak(language: Language): Promise<void> {
  await loadWords(language, navigator.languages);
  document.documentElement.lang = language;
}

/** Loads the words before anything is drawn: what views say of themselves is put into words when they are loaded. */
export const wordsLoaded = speak(chosen.now());

/** Chooses another language: the page is loaded again, so that no word of the last one stays. */
export function setLanguage(language: Language): void {
  localStorage.setItem('language', language);
  location.reload();
}

export const useLanguage = chosen.use;

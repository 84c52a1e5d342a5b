import { useState } from 'react';
import { SKILLS, type Practised } from '@restless-shoal/core/sonar';

const AT = 'practice';
/** So many answers are remembered. */
const MOST = 2000;

function stored(): Practised[] {
  try {
    const kept = JSON.parse(localStorage.getItem(AT) ?? '[]') as Practised[];
    return kept.filter(
      (k) => SKILLS.includes(k.skill) && Number.isFinite(k.at) && Number.isFinite(k.difficulty) && typeof k.right === 'boolean',
    );
  } catch {
    return [];
  }
}

/** What was answered on this device, the oldest first, and a way to add an answer. */
export function usePractice(): [Practised[], (answer: Practised) => void] {
  const [history, setHistory] = useState(stored);
  const add = (answer: Practised): void =>
    setHistory((was) => {
      const next = [...was, answer].slice(-MOST);
      try {
        localStorage.setItem(AT, JSON.stringify(next));
      } catch {
        // Full: it counts as long as the page is open.
      }
      return next;
    });
  return [history, add];
}

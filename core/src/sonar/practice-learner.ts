import { SKILLS, type Skill } from './practice-round';

/** A question that was answered. */
export interface Practised {
  skill: Skill;
  /** When, ms. */
  at: number;
  /** 0 easy – 1 hard. */
  difficulty: number;
  right: boolean;
}

/**
 * How far up after a right answer; three times as far down after a wrong one, which settles where three of four are right.
 * Source: Kaernbach 1991, Perception & Psychophysics 49, 227–229 (weighted up–down).
 */
const UP = 0.06;
const DOWN = 3 * UP;
const FIRST = 0.25;
/** An answer so many tries of its skill ago counts half. */
const HALF = 6;
/** Answers that nobody gave yet count as so many, half of them right. */
const PRIOR = 2;
/** How much each round in which a skill was not asked adds to its turn. */
const WAITING = 0.05;

/** How a skill stands. */
export interface SkillState {
  skill: Skill;
  /** Difficulty of its next question. */
  difficulty: number;
  tries: number;
  /** So many of them right. */
  correct: number;
  /** Share of right answers, later ones weighing more; half where there were none. */
  right: number;
  /** Rounds since it was last asked. */
  since: number;
}

/** How all skills stand after what was answered. @param history the oldest first */
export function skillStates(history: readonly Practised[]): SkillState[] {
  return SKILLS.map((skill) => {
    const own = history.filter((h) => h.skill === skill);
    let difficulty = FIRST;
    let [right, weight] = [PRIOR / 2, PRIOR];
    for (const h of own) {
      difficulty = Math.max(0, Math.min(1, h.difficulty + (h.right ? UP : -DOWN)));
      const fade = 0.5 ** (1 / HALF);
      [right, weight] = [right * fade + (h.right ? 1 : 0), weight * fade + 1];
    }
    const last = history.findLastIndex((h) => h.skill === skill);
    return {
      skill,
      difficulty,
      tries: own.length,
      correct: own.filter((h) => h.right).length,
      right: right / weight,
      since: history.length - 1 - last,
    };
  });
}

/**
 * What to ask next: a skill the sooner, the weaker it is and the longer it was not asked; never one twice in a row.
 * @param only skills that are practised; all where absent
 */
export function nextSkill(history: readonly Practised[], random: () => number, only: readonly Skill[] = SKILLS): SkillState {
  const last = history.at(-1)?.skill;
  const all = skillStates(history).filter((s) => only.includes(s.skill));
  const open = all.length > 1 ? all.filter((s) => s.skill !== last) : all;
  const weights = open.map((s) => (1 - s.right) * (1.2 - s.difficulty) + WAITING * Math.min(20, s.since));
  let left = random() * weights.reduce((sum, w) => sum + w, 0);
  return open.find((_, k) => (left -= weights[k]) < 0) ?? open.at(-1)!;
}

import type { Season, StageName } from '@restless-shoal/core/species';
import { brief as msg, locale, stageToday, term } from '../../words';

const TINT: Record<StageName, string> = {
  winter: '--w3',
  'early spring': '--w2',
  'before spawning': '--cover',
  spawning: '--fish',
  'after spawning': '--bait',
  summer: '--w1',
  cooling: '--bait',
  turnover: '--therm',
  'late autumn': '--w2',
};
const WIDTH = 1160;

const date = (d: Date): string => d.toLocaleDateString(locale(), { day: 'numeric', month: 'long', timeZone: 'UTC' });

const monthLetter = (k: number): string =>
  new Intl.DateTimeFormat(locale(), { month: 'narrow', timeZone: 'UTC' }).format(Date.UTC(2025, k, 15));

/** What comes next, as a range. */
export function nextWords(season: Season): string {
  if (!season.next) return msg('ribbon.nothingMoreChangesThis');
  const { stage, earliest, latest } = season.next;
  return `${term(stage)} ${latest.getTime() - earliest.getTime() < 2 * 86_400_000 ? msg('ribbon.fromAbout', { earliest: date(earliest) }) : msg('ribbon.isDueTo', { earliest: date(earliest), latest: date(latest) })}`;
}

/** The year of a species on this water: stages, the surface temperature of this year and the usual one, and today. */
export function Ribbon({ season }: { season: Season }) {
  const x = (day: number): number => (day / 365) * WIDTH;
  const most = Math.max(...season.usual, ...season.surface, 10);
  const y = (t: number): number => 108 - (t / most) * 66;
  const path = (values: Float32Array, to: number): string =>
    Array.from(values.slice(0, to + 1), (t, d) => `${d ? 'L' : 'M'}${x(d + 0.5).toFixed(1)} ${y(t).toFixed(1)}`).join('');
  const here = x(season.today + 0.5);
  const left = here > WIDTH * 0.55;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 134`}
      className="h-auto w-full"
      role="img"
      aria-label={msg('ribbon.theYearAsStages', { label: stageToday(season.stage), season: nextWords(season) })}
    >
      {season.year.map((s) => (
        <g key={s.from}>
          <rect
            x={x(s.from) + 1}
            y="4"
            width={Math.max(1, x(s.to + 1) - x(s.from) - 2)}
            height="26"
            rx="4"
            fill={`var(${TINT[s.stage]})`}
            opacity=".42"
          />
          {x(s.to + 1) - x(s.from) > term(s.stage).length * 7.2 && (
            <text x={x((s.from + s.to + 1) / 2)} y="22" textAnchor="middle" fontSize="13" fill="var(--ink)">
              {term(s.stage)}
            </text>
          )}
        </g>
      ))}
      <path d={path(season.usual, 364)} stroke="var(--mute)" strokeWidth="2" fill="none" strokeDasharray="3 5" />
      <path d={path(season.surface, season.today)} stroke="var(--fish)" strokeWidth="3" fill="none" />
      <line x1={here} x2={here} y1="0" y2="114" stroke="var(--ink)" strokeWidth="2" />
      <text
        x={left ? here - 8 : here + 8}
        y="111"
        textAnchor={left ? 'end' : 'start'}
        fontSize="14"
        fontWeight="700"
        fill="var(--ink)"
        stroke="var(--surface)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {msg('ribbon.todayDayInto', {
          since: season.since + 1,
          since2: season.since === 0 ? 'yes' : 'no',
          label: stageToday(season.stage),
          putOff:
            season.putOff === null
              ? nextWords(season)
              : msg('ribbon.putOff', { rises: season.putOff > 0 ? 'yes' : 'no', by: Math.abs(season.putOff) }),
        })}
      </text>
      {Array.from({ length: 12 }, (_, i) => monthLetter(i)).map((m, i) => (
        <text key={i} x={((i + 0.5) / 12) * WIDTH} y="131" textAnchor="middle" fontSize="12" fill="var(--mute)">
          {m}
        </text>
      ))}
    </svg>
  );
}

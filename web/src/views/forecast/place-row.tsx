import type { Place, Reason } from '@restless-shoal/core/forecast';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { Column } from '../../parts/column';
import { hectares, percent, percentRange } from '../../parts/format';
import { useWaterState } from '../../state/water';
import { forecast as msg, capital, decimal, formatDepth, say, term } from '../../words';

/** For and against, as a bar: what speaks for to the right in one colour, against in another, each with its words. */
function ReasonBar({ reasons }: { reasons: Reason[] }) {
  const total = reasons.reduce((s, r) => s + Math.abs(r.effect), 0) || 1;
  const label = reasons.map((r) => `${r.effect > 0 ? '+' : '−'}${decimal(Math.abs(r.effect), 1)} ${say(r.says)}`).join('; ');
  return (
    <span role="img" aria-label={label} title={label} className="mt-1.5 flex h-2.5 gap-px">
      {[...reasons]
        .sort((a, b) => b.effect - a.effect)
        .map((r) => (
          <span
            key={r.factor}
            style={{
              width: `${(Math.abs(r.effect) / total) * 100}%`,
              background: r.effect > 0 ? 'var(--act)' : 'repeating-linear-gradient(45deg, var(--warn) 0 3px, transparent 3px 5px)',
              opacity: r.effect > 0 ? 0.45 + Math.min(0.55, r.effect / 2) : 1,
            }}
          />
        ))}
    </span>
  );
}

/** A short sentence: what speaks for a place, and what against. */
function ReasonWords({
  reasons,
  looked,
  saw,
  today,
  fishing,
}: {
  reasons: Reason[];
  /** Null while the log is not known yet. */
  looked: number | null;
  saw: number;
  today: boolean;
  fishing: number | null;
}) {
  const pro = reasons.filter((r) => r.effect > 0).slice(0, 3);
  const con = reasons.filter((r) => r.effect < 0).slice(0, 2);
  return (
    <span className="block text-[13px] leading-snug text-mute">
      {pro.map((r) => say(r.says)).join(', ') || msg('placeRow.noStrongReason')}
      {con.length > 0 && (
        <>
          ; <b className="text-ink">{msg('placeRow.against')}</b> {con.map((r) => say(r.says)).join(', ')}
        </>
      )}
      . {looked != null && (looked === 0 ? msg('placeRow.neverLookedAt') : msg('placeRow.looks', { looked, saw }))}
      {today && <b className="text-ink"> {msg('placeRow.triedToday')}</b>}
      {fishing !== null && msg('placeRow.chanceOfABite', { fishing: percent(fishing) })}
    </span>
  );
}

/** A ranked place: how likely, how deep, why, and whether it was tried. */
export function PlaceRow({
  place,
  number,
  chosen,
  today,
  logKnown,
  onChoose,
}: {
  place: Place;
  number: number;
  chosen: boolean;
  /** Whether it was looked at on the trip that runs. */
  today: boolean;
  /** Whether the log has been read: before that nothing is said of looks. */
  logKnown: boolean;
  onChoose: () => void;
}) {
  const { day, species, chart } = useWaterState();
  const max = Math.max(6, Math.min(Math.ceil(chart!.deepest), 14));
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className={`grid w-full grid-cols-[30px_44px_1fr] items-start gap-2.5 border-b border-line px-3.5 py-2.5 text-left ${chosen ? 'bg-[color-mix(in_srgb,var(--fish)_10%,transparent)]' : 'hover:bg-[color-mix(in_srgb,var(--act)_6%,transparent)]'}`}
      >
        <span className="num grid size-[30px] place-items-center rounded-full border-2 border-ink font-bold">{number}</span>
        <Column
          width={40}
          height={70}
          max={max}
          bottom={place.depth}
          hardness={chart!.cells.hardness[place.cell] || 0}
          thermocline={day.column.thermocline}
          oxygenTo={oxygenHoldsTo(day.column.samples, species.leastOxygen)}
          cover={chart!.cells.woodDistance[place.cell] < 25 ? 1.8 : null}
          band={{ top: place.depthTop, bottom: place.depthBottom }}
          label={msg('placeRow.mDeepLikelyAt', {
            depth: place.depth,
            name: term(species.name),
            depthTop: place.depthTop,
            depthBottom: place.depthBottom,
          })}
        />
        <span>
          <span className="flex items-baseline justify-between gap-2">
            <b className="leading-tight">
              {capital(say(place.name))}, {formatDepth(place.depth).replace(' ', '\u00a0')}
            </b>
            <b className="num whitespace-nowrap text-fish">{percent(place.probability)}</b>
          </span>
          <span className="num flex justify-between text-[13px] text-mute">
            <span>{msg('placeRow.holdAtM', { depthTop: place.depthTop, depthBottom: place.depthBottom, area: hectares(place.area) })}</span>
            <span title={msg('placeRow.interval')} className="whitespace-nowrap">
              {percentRange(place.low, place.high)}
            </span>
          </span>
          <ReasonWords
            reasons={place.reasons}
            looked={logKnown ? place.looked : null}
            saw={place.saw}
            today={today}
            fishing={place.fishing}
          />
          <ReasonBar reasons={place.reasons} />
        </span>
      </button>
    </li>
  );
}

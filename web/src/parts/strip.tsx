import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { ChevronDown } from 'lucide-react';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { tideOf, tideState } from '@restless-shoal/core/tide';
import { useNavigate } from 'react-router';
import type { WaterSummary } from '../api/queries';
import { useReach } from '../api/reach';
import { useWaterState } from '../state/water';
import { clockInZone, compass, dayInZone, depthRange } from './format';
import { tideLine } from './tide-line';
import { StripSheet } from './strip-sheet';
import { useUnits } from '../state/units';
import { formatDepth, formatSpeed, formatTemperature, stepText, parts as msg, term, stageToday } from '../words';

function Item({
  label,
  children,
  note,
  changed,
  onPress,
  className = '',
}: {
  label: string;
  children: ReactNode;
  note?: ReactNode;
  changed?: boolean;
  onPress: () => void;
  className?: string;
}) {
  return (
    <button
      type="button"
      onClick={onPress}
      className={`shrink-0 whitespace-nowrap border-r border-line px-3 py-2 short:py-0.5 text-left hover:bg-[color-mix(in_srgb,var(--act)_7%,transparent)] ${changed ? 'bg-[color-mix(in_srgb,var(--therm)_16%,transparent)]' : ''} ${className}`}
    >
      <span className="block text-xs text-mute">{label}</span>
      <span className="num text-[17px] font-semibold">{children}</span>
      {note && <span className="ml-1 text-xs text-mute">{note}</span>}
    </button>
  );
}

/** Hours from high water, as hours and minutes. */
function fromHighWords(hours: number): string {
  const minutes = Math.round(Math.abs(hours) * 60);
  const clock = `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
  return msg(hours >= 0 ? 'strip.afterHigh' : 'strip.beforeHigh', { clock });
}

/** Size of the tide's curve from three hours before to nine after, pixels. */
const [TIDE_WIDTH, TIDE_HEIGHT] = [72, 20];

/** Stands for the list of all waters in the choice of one. */
const ALL = 'all';

/** The conditions everything else is computed for. Press any of them to ask what if. */
export function Strip({ waters, onChoose }: { waters: WaterSummary[]; onChoose: (id: string) => void }) {
  const { water, species, speciesKnown, setSpecies, conditions, day, sort, season, whatIf, setWhatIf, readAt, running } = useWaterState();
  const units = useUnits();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (event.key !== 'w' || (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName))) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);

  const asking = Object.keys(whatIf).length > 0;
  const zone = water.time_zone;
  const line = day.column.thermocline;
  const oxygen = oxygenHoldsTo(day.column.samples, species.leastOxygen);
  const minute = Math.floor(conditions.at.getTime() / 60_000);
  const tide = useMemo(() => {
    const found = tideOf(water.tide);
    const state = found && tideState(found, minute * 60_000);
    return state && { ...state, line: tideLine(found, (minute - 180) * 60_000, (minute + 540) * 60_000, TIDE_WIDTH, TIDE_HEIGHT, 4) };
  }, [water.tide, minute]);
  const show = (): void => setOpen(true);
  const reach = useReach();
  const asOf = reach.asOf === null ? '' : msg('strip.asOf', { asOf: clockInZone(new Date(reach.asOf), zone) });
  const source = !reach.server
    ? msg('strip.noServer')
    : asking
      ? msg('strip.whatIf')
      : running
        ? msg('strip.onTheWater')
        : readAt
          ? msg('strip.asLogged', { readAt: dayInZone(readAt, zone) })
          : msg('strip.nothingLoggedYet');
  return (
    <header
      aria-label={msg('strip.conditions')}
      className={`flex items-stretch border-b border-line bg-surface ${asking ? 'shadow-[inset_0_3px_0_var(--therm)]' : ''}`}
    >
      <div className="flex min-w-0 flex-1 overflow-x-auto">
        <label className="relative shrink-0 border-r border-line px-3 py-2 short:py-0.5">
          <span className="block text-xs text-mute">{msg('strip.water')}</span>
          <select
            aria-label={msg('strip.water2')}
            className="num max-w-44 max-md:max-w-28 cursor-pointer appearance-none truncate bg-transparent pr-5 text-[17px] font-semibold"
            value={water.id}
            onChange={(e) => (e.target.value === ALL ? void navigate('/waters') : onChoose(e.target.value))}
          >
            {waters.map((w) => (
              <option key={w.id} value={w.id} className="bg-surface text-ink">
                {w.name}
              </option>
            ))}
            <option value={ALL} className="bg-surface text-ink">
              {msg('strip.allWaters')}
            </option>
          </select>
          <ChevronDown size={16} aria-hidden className="pointer-events-none absolute bottom-3 right-2 text-mute" />
        </label>
        <label className="relative shrink-0 border-r border-line px-3 py-2 short:py-0.5">
          <span className="block whitespace-nowrap text-xs text-mute">
            {speciesKnown ? stageToday(season.stage) : msg('strip.chooseASpecies')}
          </span>
          <select
            aria-label={msg('strip.species')}
            className="w-28 cursor-pointer appearance-none truncate bg-transparent pr-5 text-[17px] font-semibold"
            value={species.name}
            onChange={(e) => setSpecies(e.target.value)}
          >
            {[true, false].map((logged) => (
              <optgroup key={String(logged)} label={logged ? msg('strip.inThisLog') : msg('strip.others')} className="bg-surface text-ink">
                {water.species
                  .filter((s) => water.logged.includes(s.name) === logged)
                  .map((s) => (
                    <option key={s.name} value={s.name}>
                      {term(s.name)}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
          <ChevronDown size={16} aria-hidden className="pointer-events-none absolute bottom-3 right-2 text-mute" />
        </label>
        <Item label={dayInZone(conditions.at, zone)} changed={whatIf.at !== undefined} onPress={show} className="max-md:hidden">
          {clockInZone(conditions.at, zone)}
        </Item>
        <Item
          label={msg('strip.surface')}
          changed={whatIf.surface !== undefined}
          onPress={show}
          note={msg('strip.aDay', { trend: conditions.trend >= 0 ? 'yes' : 'no', trend2: stepText(Math.abs(conditions.trend), units) })}
        >
          {formatTemperature(conditions.surface, units)}
        </Item>
        <Item label={msg('strip.clarity')} changed={whatIf.secchi !== undefined} onPress={show}>
          {formatDepth(conditions.secchi, units)}
        </Item>
        {sort === 'lake' && (
          <Item
            label={`${term('thermocline')}${day.column.modelled && line ? msg('strip.modelled') : ''}`}
            changed={whatIf.thermoclineSet !== undefined}
            onPress={show}
          >
            {line ? depthRange(line.top, line.bottom) : term('none')}
          </Item>
        )}
        {sort === 'lake' && (
          <Item label={msg('strip.oxygenHoldsTo')} onPress={show}>
            {oxygen === null ? msg('strip.theBottom') : formatDepth(oxygen, units)}
          </Item>
        )}
        {sort === 'river' && (
          <Item
            label={term('current')}
            changed={whatIf.currentSpeed !== undefined || whatIf.currentTo !== undefined}
            onPress={show}
            note={day.stream ? compass(day.stream.set) : undefined}
          >
            {day.stream ? formatSpeed(day.stream.rate, units) : msg('strip.notRead')}
          </Item>
        )}
        {tide && (
          <Item
            label={msg('strip.tide')}
            onPress={show}
            note={`${msg(tide.rising ? 'strip.rising' : 'strip.falling')}${tide.fromHigh === null ? '' : `, ${fromHighWords(tide.fromHigh)}`}`}
          >
            {formatDepth(tide.height, units)}
            {tide.line && (
              <svg width={TIDE_WIDTH} height={TIDE_HEIGHT} className="ml-2 inline-block align-[-3px]" aria-hidden data-testid="strip-tide">
                <path d={tide.line.path} fill="none" stroke="var(--act)" strokeWidth={2} />
                <circle cx={tide.line.x(minute * 60_000)} cy={tide.line.y(tide.height)} r={3.5} fill="var(--fish)" />
              </svg>
            )}
          </Item>
        )}
        <Item label={msg('strip.wind')} changed={whatIf.windSpeed !== undefined || whatIf.windFrom !== undefined} onPress={show}>
          {conditions.windSpeed < 0.3
            ? msg('strip.calm')
            : `${compass(conditions.windFrom)} ${formatSpeed(Math.round(conditions.windSpeed), units)}`}
        </Item>
        {conditions.level !== null && !tide && (
          <Item
            label={msg('strip.level')}
            changed={whatIf.level !== undefined || whatIf.levelTrend !== undefined}
            onPress={show}
            note={
              conditions.levelTrend === null || Math.abs(conditions.levelTrend) < 0.05
                ? msg('strip.steady')
                : conditions.levelTrend > 0
                  ? msg('strip.rising')
                  : msg('strip.falling')
            }
            className="max-2xl:hidden"
          >
            {conditions.level > 0 ? '+' : conditions.level < 0 ? '−' : ''}
            {formatDepth(Math.abs(conditions.level), units)}
          </Item>
        )}
        <Item label={msg('strip.sun')} onPress={show} className="max-2xl:hidden">
          {day.sunHeight > 0 ? msg('strip.high', { sunHeight: Math.round(day.sunHeight) }) : msg('strip.down')}
        </Item>
      </div>
      <button
        type="button"
        onClick={asking ? () => setWhatIf(null) : show}
        className="shrink-0 border-l border-line px-3 py-2 text-left md:border-l-0 short:py-0.5"
      >
        <span
          className={`block whitespace-nowrap text-xs max-md:max-w-24 max-md:truncate ${reach.server ? 'text-mute' : 'font-bold text-warn'}`}
        >
          {source}
          {!reach.server && <span className="max-md:hidden">{asOf}</span>}
        </span>
        <span className="whitespace-nowrap font-bold" style={{ color: asking ? 'var(--therm)' : 'var(--act)' }}>
          {asking ? msg('strip.backToTheLog') : msg('strip.whatIf2')}
        </span>
      </button>
      {open && <StripSheet onClose={() => setOpen(false)} />}
    </header>
  );
}

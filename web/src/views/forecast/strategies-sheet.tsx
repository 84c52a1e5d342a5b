import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Strategy } from '@restless-shoal/core/forecast';
import { STRATEGY_SETTINGS, strategySetting, type StrategySetting } from '@restless-shoal/core/species';
import { ask } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { NumberRow } from '../../parts/number-row';
import { readNumber } from '../../parts/read-number';
import { wantRefit } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';
import { forecast as msg, strategyName, term } from '../../words';
import { strategiesOf } from './strategies-of';
import { told } from '../../parts/told';

/** What each strategy holds, as those who follow it would put it. */
const HOLDS: Record<Strategy, string> = {
  depth: msg('strategiesSheet.findTheDepthMost'),
  comfort: msg('strategiesSheet.warmthOxygenAndLight'),
  bottom: msg('strategiesSheet.theHardSpotFeeds'),
  structure: msg('strategiesSheet.aPointHumpOr'),
  cover: msg('strategiesSheet.goWhereSomethingPhysical'),
  bait: msg('strategiesSheet.noBaitNoFish'),
  current: msg('strategiesSheet.fishHoldWhere'),
  quiet: msg('strategiesSheet.unpressuredFishBiteLeave'),
  known: msg('strategiesSheet.placesEverybodyFishesAre'),
};

const digits = (value: number): string => String(Number(value.toFixed(3)));

/** What a setting is called; the weights have one name for all. */
const settingName = (key: string): string => (key.endsWith('.weight') ? msg('setting.weight') : msg(`setting.${key}` as 'setting.weight'));
const unitName = (unit: string): string =>
  unit === '× usual' ? msg('setting.timesUsual') : unit === '1/m' ? msg('setting.perMetre') : unit;

/** The rules of the strategies for a species on a water: each can be set otherwise. */
export function StrategiesSheet({ onClose }: { onClose: () => void }) {
  const { water, species } = useWaterState();
  const queries = useQueryClient();
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(STRATEGY_SETTINGS.map((s) => [s.key, digits(strategySetting(species, s.key))])),
  );
  const [failed, setFailed] = useState<string | null>(null);
  const unusual = ({ key, usual }: StrategySetting): boolean => readNumber(values[key]) !== usual;
  const wrong = (s: StrategySetting): boolean => !(readNumber(values[s.key]) >= s.min && readNumber(values[s.key]) <= s.max);
  const save = async (): Promise<void> => {
    const bad = STRATEGY_SETTINGS.find(wrong);
    if (bad)
      return setFailed(
        msg('strategiesSheet.aNumberFromTo', {
          strategy: strategyName(bad.strategy),
          label: settingName(bad.key),
          min: bad.min,
          max: bad.max,
        }),
      );
    const strategies = Object.fromEntries(STRATEGY_SETTINGS.filter(unusual).map(({ key }) => [key, readNumber(values[key])]));
    try {
      await ask('PUT /waters/:water/species/:name', { water: water.id, name: species.name }, { body: { ...species, strategies } });
      wantRefit(water.id, species.name);
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      await queries.invalidateQueries({ queryKey: ['fit', water.id, species.name] });
      onClose();
    } catch (error) {
      setFailed(told(error));
    }
  };
  const any = STRATEGY_SETTINGS.some(unusual);
  return (
    <Dialog title={msg('strategiesSheet.whatTheStrategiesSay', { name: term(species.name) })} onClose={onClose}>
      <p className="mb-2 text-sm text-mute">
        {msg('strategiesSheet.theForecastStartsFrom', { name: term(species.name), name2: water.name })}
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="max-h-[50vh] overflow-y-auto pr-1">
          {strategiesOf(water).map((strategy) => (
            <section key={strategy} className="border-t border-line py-1.5">
              {STRATEGY_SETTINGS.filter((s) => s.strategy === strategy).map((s) => (
                <NumberRow
                  key={s.key}
                  label={
                    s.key === `${strategy}.weight` ? (
                      <>
                        <b>{strategyName(strategy)}</b> <span className="block text-sm leading-tight text-mute">{HOLDS[strategy]}</span>
                      </>
                    ) : (
                      settingName(s.key)
                    )
                  }
                  name={`${strategyName(strategy)}: ${settingName(s.key)}`}
                  unit={s.key === `${strategy}.weight` ? msg('strategiesSheet.counts') : unitName(s.unit)}
                  value={values[s.key]}
                  onChange={(v) => setValues({ ...values, [s.key]: v })}
                  className={unusual(s) ? 'font-bold text-act' : ''}
                />
              ))}
            </section>
          ))}
        </div>
        {failed && (
          <p role="alert" className="mt-2 text-sm text-warn">
            {failed}
          </p>
        )}
        <div className="mt-3 grid grid-cols-2 gap-3">
          <button
            type="button"
            className="btn h-12"
            disabled={!any}
            onClick={() => setValues(Object.fromEntries(STRATEGY_SETTINGS.map((s) => [s.key, digits(s.usual)])))}
          >
            {msg('strategiesSheet.resetToDefaults')}
          </button>
          <button type="submit" className="btn btn-primary h-12 text-lg">
            {msg('strategiesSheet.keepThese')}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

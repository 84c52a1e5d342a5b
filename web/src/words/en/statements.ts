import type { CarriedCode, CautionCode, HeatCode, PlaceCode, PlanCode, ReasonCode } from '@restless-shoal/core/forecast';
import type { AdviceCode, AnchorCode, ComeInCode, LeftOutCode, SheetTrouble, StayCode } from '@restless-shoal/core/passage';
import type { ConditionCode } from '@restless-shoal/core/patterns';
import type { SettingsCode, WorkingCode } from '@restless-shoal/core/sonar';
import type { WindowCode } from '@restless-shoal/core/species';

type StatementCode =
  | SettingsCode
  | AdviceCode
  | AnchorCode
  | ComeInCode
  | LeftOutCode
  | SheetTrouble
  | StayCode
  | CarriedCode
  | CautionCode
  | ConditionCode
  | HeatCode
  | PlaceCode
  | PlanCode
  | ReasonCode
  | WindowCode
  | WorkingCode;

/** What core has to say, by its code, in English. A value that is text comes worded. */
export const statements = {
  'reason.depth.suits': '{depth, number, depth} of water, where {species} are looked for today',
  'reason.depth.shallow': 'shallow at {depth, number, depth}',
  'reason.depth.deep': 'deep at {depth, number, depth}',
  'reason.window.inside': 'inside the depths that suit',
  'reason.window.outside': 'outside the depths that suit',
  'reason.thermocline.over': 'open water over {depth, number, depth}, fish suspended above the thermocline',
  'reason.thermocline.below': 'bottom below the thermocline ({thermocline, number, depth})',
  'reason.thermocline.just': 'just above the thermocline ({thermocline, number, depth})',
  'reason.thermocline.well': 'well above the thermocline ({thermocline, number, depth})',
  'reason.bottom.unknown': 'bottom hardness not known',
  'reason.bottom': '{kind} bottom',
  'reason.bottom.edge': '{kind} bottom, where hard meets soft',
  'reason.shape.rise': 'a rise {rise, number, depth} above its surroundings',
  'reason.shape.small': 'a small rise',
  'reason.shape.hole': 'down in the channel or a hole',
  'reason.shape.slope': 'on a slope of {percent} %',
  'reason.shape.good': 'the shape of the bottom',
  'reason.shape.flat': 'flat and featureless',
  'reason.timber.here': 'timber or brush right here',
  'reason.timber.near': 'timber or brush within {within, number, distance}',
  'reason.reef.here': 'reef, wreck or rock right here',
  'reason.reef.near': 'reef, wreck or rock within {within, number, distance}',
  'reason.weed.here': 'weed right here',
  'reason.weed.near': 'weed within {within, number, distance}',
  'reason.cover.none': 'no cover known near',
  'reason.wind.blown': 'wind-blown',
  'reason.wind.sheltered': 'sheltered from the wind',
  'reason.wind.neither': 'neither wind-blown nor sheltered',
  'reason.current.up': 'on the up-current side of {of, select, cover {cover} other {a rise}}',
  'reason.current.down': 'on the down-current side of {of, select, cover {cover} other {a rise}}',
  'reason.current.slack': 'slack water',
  'reason.current.seam': 'by a seam between fast and slack water',
  'reason.current.eddy': 'in an eddy',
  'reason.current.runs': 'the current runs {rate, number, speed} here, on no side of anything',
  'reason.shore.away': 'away from the shore',
  'reason.shore.close': 'close to the shore',
  'reason.log.more': 'your log holds more here than the rest explains',
  'reason.log.less': 'your log holds less here than the rest explains',
  'reason.today.seen': 'fish or bait seen near here earlier today',
  'reason.today.fewer': 'looked at near here earlier today, fewer than expected',

  'plan.depth': 'bottom near {depth, number, depth}',
  'plan.comfort.none': 'no depth suits today',
  'plan.comfort': 'where the bottom meets {depth, number, depth}',
  'plan.bottom': 'hard bottom and its edges',
  'plan.structure': 'humps, points, drop-offs at {depth, number, depth}',
  'plan.structure.coast': 'banks, reefs, drop-offs at {depth, number, depth}',
  'plan.cover.coast': 'reef, wreck and rock',
  'plan.cover.weed': 'weed, then timber and brush',
  'plan.cover.timber': 'timber and brush, then weed',
  'plan.bait.calm': 'no wind to say where it drifts',
  'plan.bait': 'the wind-blown side',
  'plan.current': 'the up-current side of cover and rises',
  'plan.quiet': 'away from shore and ramp',
  'plan.known': 'what stands out on the chart',

  'caution.waves.unknown':
    'How high the waves get is not worked out without an outline. A sheltered shore hides the sea outside. The skipper decides.',
  'caution.waves':
    'Now waves up to {highest, number, depth}; at {wind, number, speed} from there up to {then, number, depth}. A sheltered shore hides the sea outside. The skipper decides.',
  'caution.waves.steep':
    'Now waves up to {highest, number, depth}: short and steep for a boat of {boat, number, depth}; at {wind, number, speed} from there up to {then, number, depth}. A sheltered shore hides the sea outside. The skipper decides.',
  'caution.cold': 'At {surface, number, temperature} it kills fast: life-jacket on.',
  'caution.warm':
    'Above {limit, number, temperature} many released {species} do not live: stop, or keep them in the water. Check the rules for this water.',
  'caution.deep':
    'Released from below {depth, number, depth} many do not live. Do not target deep fish for release; check the rules for this water.',

  'heat.deeper': 'down to the lower edge of the window ({bottom, number, depth}), not below it',
  'heat.moving': 'to the channel, inflows and where the wind stirs',
  'heat.weed': 'into living weed in daylight',
  'heat.slower': 'the same places as before, fewer bites: saturated water still holds oxygen enough',

  'window.free': 'nothing keeps it down',
  'window.light.shy': 'light at {clarity, number, depth} clarity keeps it below {top, number, depth} while the sun is up',
  'window.bottom': 'the bottom',
  'window.none': 'no water is both below {temperature, number, temperature} and above {oxygen, number, tenth} mg/l of oxygen',
  'window.nothing': 'no suitable depth today',
  'window.cold': 'below {depth, number, depth} it is much colder than the {temperature, number, temperature} preferred',
  'window.cold.above': 'above {depth, number, depth} it is much colder than the {temperature, number, temperature} preferred',
  'window.oxygen.above': 'above {depth, number, depth} there is less than {oxygen, number, tenth} mg/l of oxygen',
  'window.spawning': 'it spawns at {from, number, depth} to {to, number, depth}',
  'window.warm': 'water above {depth, number, depth} is warmer than {temperature, number, temperature}',
  'window.oxygen': 'below {depth, number, depth} there is less than {oxygen, number, tenth} mg/l of oxygen',
  'window.light': 'light for sight-feeding ends at {depth, number, depth} ({base, number, depth} + {factor} × clarity)',
  'window.thermocline': 'the thermocline is steepest at {depth, number, depth}, with little oxygen below',

  'place.shape': '{shape}',
  'place.timber': 'timber on {shape}',
  'place.reef': 'reef or wreck on {shape}',
  'place.weed': 'weed on {shape}',

  'advice.dusk': '{minutes} min of light left: no time to find another',
  'advice.unsure': 'identified at {odds, number, wholePercent}: another view would settle it',
  'advice.chance':
    'about {chance, number, wholePercent} in {minutes} min ({count} {size, select, any {fish} unknown {fish of unknown size} other {{size} fish}}, {tried, plural, =0 {no stop at fish yet today} other {{paid} of {tried} stops paid today}})',
  'advice.small':
    'about {chance, number, wholePercent} in {minutes} min ({count} {size, select, unknown {fish of unknown size} other {{size} fish}}, {tried, plural, =0 {no stop at fish yet today} other {{paid} of {tried} stops paid today}}); big ones are wanted',

  'settings.range.sounder':
    'Range {range, number, depth}: {purpose, select, bottom {deep enough for the second echo of the bottom, which shows hardness} other {the bottom and a little below it, so that fish are drawn large}}.',
  'settings.range.side-scan':
    'Range {range, number, depth} to each side: {purpose, select, bottom {wide, to see shapes of the bottom} other {close enough that fish keep their shadows}}.',
  'settings.range.forward-facing': 'Range {range, number, depth} ahead: three times the depth; farther out fish and bottom merge.',
  'settings.range.seen': 'With your tuned gain a fish of {length, number, fishLength} is seen to {far, number, depth} only.',
  'settings.frequency.high':
    '{frequency, number, whole} kHz: finer detail, and the water takes only {taken, number, tenth} dB of it over this range.',
  'settings.frequency.low':
    '{frequency, number, whole} kHz: at {other, number, whole} kHz the water would take {taken, number, tenth} dB over this range.',
  'settings.gain.fish': 'Gain for fish: up until specks fill the water, then a step back.',
  'settings.gain.bottom': 'Gain for bottom: down until only hard bottom stays bright.',
  'settings.speed': 'At most {speed, number, speed}: {pings, number, whole} pings on the fish, fewer make no shape.',
  'working.slant':
    '{range, number, depth} by slant, {below, number, depth} below the transducer: √({range, number, depthNumber}² − {below, number, depthNumber}²) = {flat, number, depth} over the ground',
  'working.below': '{depth, number, depth} deep, straight below where the boat was {ago} ago{back}',
  'working.under': '{range, number, depth} by slant does not reach {below, number, depth} down: under the boat',
  'working.shadow':
    'shadow at {shadow, number, depth}, {height, number, depth} under the transducer: {height, number, depthNumber}·(1 − {range, number, depthNumber}/{shadow, number, depthNumber}) = {above, number, depth} off the bottom',
  'working.forward': '{range, number, depth} at {down, number, whole}° down: {ahead, number, depth} ahead, {depth, number, depth} deep',

  'carried.surface.usual': 'surface temperature: none read, the usual one for the date and latitude',
  'carried.surface.moved': 'surface temperature: read {days, plural, one {# day} other {# days}} before, moved with the season',
  'carried.clarity': 'clarity: none read, {assumed, number, depth} assumed',
  'carried.wind': 'wind: none read lately, calm assumed',

  'condition.hard': 'hard bottom',
  'condition.soft': 'soft bottom',
  'condition.edge': 'where hard meets soft within {within, number, distance}',
  'condition.timber': 'timber, rock or reef within {within, number, distance}',
  'condition.weed': 'weed within {within, number, distance}',
  'condition.slope': 'a slope over {percent} %',
  'condition.rise': 'a rise over the bottom round it',
  'condition.hump': 'a hump or point',
  'condition.hole': 'a channel or hole',
  'condition.above-thermocline': 'bottom within {within, number, distance} above the thermocline',
  'condition.below-thermocline': 'bottom below the thermocline',
  'condition.blown': 'the wind-blown side for {hours} h',
  'condition.sheltered': 'the sheltered side for {hours} h',
  'condition.bait': 'bait seen earlier within {within, number, distance}',
  'condition.channel': 'a channel within {within, number, distance}',
  'condition.shore': 'the shore within {within, number, distance}',
  'condition.deep': 'deep water within {within, number, distance}',
  'condition.arm': 'far up an arm',
  'condition.sun': 'a low sun',
  'condition.depth.under': 'bottom shallower than {to, number, distance}',
  'condition.depth': 'bottom at {from, number, distanceNumber} to {to, number, distance}',
  'condition.depth.over': 'bottom at {from, number, distance} or deeper',
  'anchor.bow-only': 'From the bow only, never from the stern alone.',
  'anchor.scope': 'Scope {scope, number, tenth} is short: {rode, number, distance} of line would hold better.',
  'anchor.deep': 'Deep for an anchor at {depth, number, depth}: it takes much line.',
  'anchor.hard': 'Hard bottom: an anchor may not bite.',
  'anchor.weed': 'Weed: an anchor may slide on it.',
  'anchor.timber': 'Timber: an anchor may foul and stay there.',
  'anchor.reef': 'Reef or wreck: an anchor may foul and stay there.',
  'anchor.across': 'Wind across the current ({between, number, whole}° apart): it will range about and snatch.',
  'anchor.waves': 'Waves of {height, number, depth}: do not lie at anchor in them with a small boat.',
  'come-in.downwind': 'From downwind: the wind holds the boat off the fish.',
  'come-in.down-current': 'From down-current: the current holds the boat off the fish.',
  'come-in.calm': 'Calm: any side will do; cut the engine early.',
  'come-in.shadow': 'Mind the boat’s shadow: the sun stands in the {sun}.',
  'come-in.no-shadow': 'The boat’s shadow falls away from them: the sun stands in the {sun}.',
  'come-in.shore': 'Not straight from downwind: there is too little water.',
  'left-out.no-way': 'no way by water leads there',
  'left-out.too-far': 'too far: there, a short stop and back take {minutes, number, whole} min',
  'left-out.window': 'not open when you could be there',
  'left-out.less': 'putting it in would cost {cost, number, hundredth}; alone it brings {own, number, hundredth}',
  'left-out.fuel': 'not enough fuel to go there and back',
  'sheet.end-before-start': 'The day ends before it starts: set a later end.',
  'sheet.start-on-land': 'The start lies on land, far from water the boat can float in.',
  'sheet.end-on-land': 'The ramp lies on land, far from water the boat can float in. Set it on the map.',
  'sheet.no-way-home': 'No way by water leads from the start to the ramp.',
  'sheet.no-spots': 'No spots to choose from: sound the water, or put spots of your own on the plan.',
  'sheet.none-fits': 'No stop fits into the time there is.',
  'sheet.pinned-out': 'A spot that you wanted to keep does not fit.',
  'sheet.no-wind': 'No wind is known for the middle of the day: waves are left out.',
  'sheet.uncharted': 'No depth is known for {share, number, wholePercent} of the water: mind the shallows.',
  'sheet.home-rough': 'At {at} the way home has waves above your limit of {limit, number, depth}.',
  'stay.better': 'No other spot is worth more, the way there included.',
  'stay.bites': 'They bite. In {minutes, number, whole} min the next spot is worth more.',
  'leave.soon': 'Leave in {minutes, number, whole} min: then the next spot is worth more, the way there included.',
  'leave.now':
    'Leave: the next spot is worth more ({elsewhere, number, tenth} against {here, number, tenth} an hour), the way there included.',
  'leave.nowhere': 'No other spot is planned.',
  'leave.day-over': 'The day is over.',
} satisfies Record<StatementCode, string>;

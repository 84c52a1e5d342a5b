import { useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import type { Contact } from '@restless-shoal/core/logbook';
import { PositionField } from '../position-field';
import { spanWithin, type DepthSpan } from './column-gesture';
import { ColumnInput } from './column-input';
import { isFree, type Kind } from './kinds';
import { logged } from './mark-row';
import { depthRange } from '../format';
import { deck as msg } from '../../words';

/** Puts depth and place of a mark right: the depth on the Column, the place typed or taken from where the boat is now. */
export function DepthAndPlace({
  contact,
  from,
  onChange,
}: {
  contact: Contact;
  /** Where the boat is, if known. */
  from: LatLon | null;
  onChange: (change: Partial<Contact>) => void;
}) {
  const floor = contact.water_depth_m ?? Math.max(12, (contact.bottom_m ?? 0) * 1.3);
  const saved = contact.top_m === null ? null : { top: contact.top_m, bottom: contact.bottom_m ?? contact.top_m };
  const [span, setSpan] = useState<DepthSpan>(() => spanWithin(saved, floor));
  const changed = span.top !== saved?.top || span.bottom !== saved?.bottom;
  const kind = contact.kind as Kind;
  return (
    <details className="mt-2 border-t border-line pt-2">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">{msg('depthAndPlace.changeDepthOrPlace')}</summary>
      {(isFree(kind) || kind === 'cover' || kind === 'weed') && (
        <div className="flex items-center gap-4">
          <ColumnInput
            width={170}
            height={230}
            bottom={contact.water_depth_m}
            deepest={floor}
            hardness={contact.hardness}
            thermocline={null}
            oxygenTo={null}
            span={span}
            count={contact.count ?? 1}
            kind={kind}
            onChange={setSpan}
          />
          <div className="flex-1">
            <p className="num mb-2 font-semibold">{depthRange(span.top, span.bottom)}</p>
            <button
              type="button"
              className="btn btn-primary h-12 w-full"
              disabled={!changed}
              onClick={() => onChange({ top_m: span.top, bottom_m: span.bottom })}
            >
              {msg('depthAndPlace.saveDepth')}
            </button>
          </div>
        </div>
      )}
      <div className="mt-2 flex flex-col gap-2">
        {from && (
          <button type="button" className="btn h-12 w-full" onClick={() => onChange(logged(from))}>
            {msg('depthAndPlace.moveItToThe')}
          </button>
        )}
        <PositionField
          label={msg('depthAndPlace.positionOfTheMark')}
          button={msg('depthAndPlace.moveItThere')}
          onPosition={(position) => onChange(logged(position))}
        />
      </div>
    </details>
  );
}

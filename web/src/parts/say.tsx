import { Children, type ReactNode } from 'react';
import { useSay } from '../state/units';

/** Its words with their measures in the reader's units; words that stand side by side are read as one. */
export function Say({ children }: { children: ReactNode }) {
  const say = useSay();
  const out: ReactNode[] = [];
  let words = '';
  const end = (): void => {
    if (words) out.push(say(words));
    words = '';
  };
  for (const child of Children.toArray(children)) {
    if (typeof child === 'string' || typeof child === 'number') words += child;
    else {
      end();
      out.push(child);
    }
  }
  end();
  return <>{out}</>;
}

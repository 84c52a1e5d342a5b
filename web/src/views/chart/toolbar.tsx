import type { LucideIcon } from 'lucide-react';
import { chart as msg } from '../../words';

/** A tool of the Chart, in the order in which they stand. */
export interface ChartTool<T extends string> {
  tool: T;
  words: string;
  icon: LucideIcon;
  /** Only where there is no room for a place of its own. */
  narrowOnly?: boolean;
}

/** The tools of the Chart, above the panel of the one in hand. */
export function Toolbar<T extends string>({
  tools,
  tool,
  onTool,
}: {
  tools: readonly ChartTool<T>[];
  tool: T | null;
  /** A press on the tool in hand says the same tool again. */
  onTool: (tool: T) => void;
}) {
  return (
    <div className="flex rounded-box border border-line bg-surface p-1" role="toolbar" aria-label={msg('toolbar.toolsOfTheChart')}>
      {tools.map(({ tool: own, words, icon: Icon, narrowOnly }) => (
        <button
          key={own}
          type="button"
          aria-pressed={tool === own}
          className={`flex min-h-12 flex-1 flex-col items-center justify-center gap-0.5 rounded-field text-[13px] max-md:text-xs ${narrowOnly ? 'md:hidden' : ''} ${tool === own ? 'bg-act font-bold text-act-ink' : 'text-mute hover:bg-ground'}`}
          onClick={() => onTool(own)}
        >
          <Icon size={20} aria-hidden />
          {words}
        </button>
      ))}
    </div>
  );
}

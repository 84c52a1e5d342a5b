import type { Plugin } from 'esbuild';

export const alias: Record<string, string>;
export function derivationCode(plugins?: Plugin[]): Promise<Record<'chart' | 'looks' | 'fit' | 'scores', string>>;

import { useState } from 'react';
import { toast } from 'sonner';
import type { Coding } from '#core/reel';
import type { Preset } from '#usecases/presets';
import { tell } from '../../ui/ask';
import { useAsked } from '../../ui/useAsked';
import { renderWords as words } from './renderWords';

const address = '/presets';
const none: Preset[] = [];

/** Presets for files, of all projects. @param isWanted whether anybody looks at them */
export function usePresets(isWanted: boolean) {
  const { data, askAgain } = useAsked<{ presets: Preset[] }>(address, null, isWanted);
  const [problem, setProblem] = useState<string | null>(null);
  /** @returns the preset's id; null when it was refused */
  const send = async (body: object): Promise<string | null> => {
    const said = await tell(address, body);
    setProblem(said.problem);
    askAgain();
    return said.problem === null ? (said.id ?? null) : null;
  };
  return {
    presets: data?.presets ?? none,
    problem,
    keep: (name: string, coding: Coding) => send({ intent: 'keep', preset: { name, ...coding } }),
    remove: async ({ id, name }: Pick<Preset, 'id' | 'name'>) => {
      if (await send({ intent: 'remove', id }))
        toast(words.removed(name), {
          action: { label: words.undo, onClick: () => void send({ intent: 'restore', id }) },
        });
    },
  };
}
export type Presets = ReturnType<typeof usePresets>;

import type { Coding } from '#core/reel';
import { addPreset, listPresets, setPresetRemoved } from '#data/presets';
import { ChangePresetDto } from './forms/reelDto';
import { done, refused, type Result } from './result';
import { check } from './validate';

/** A list for one popover: more of them nobody finds anything in. */
const mostPresets = 40;

/** A way to make a file that is kept by name. */
export interface Preset {
  id: string;
  name: string;
  coding: Coding;
}

/** All presets, of every project. */
export const showPresets = async (): Promise<Result<{ presets: Preset[] }>> => done({ presets: await listPresets() });

/** Keeps a preset, takes one away, or brings it back. @returns its id */
export async function changePreset(given: unknown): Promise<Result<{ id: string }>> {
  const checked = check(ChangePresetDto, given);
  if (!checked.ok) return checked;
  const { intent, id, preset } = checked.value;
  if (intent !== 'keep') {
    await setPresetRemoved(id!, intent === 'remove');
    return done({ id: id! });
  }
  const { name, format, quality, lines, captions } = preset!;
  const known = await listPresets();
  if (known.some((each) => each.name.toLocaleLowerCase() === name.toLocaleLowerCase()))
    return refused(`There is a preset “${name}” already. Give it another name.`, 'name');
  if (known.length >= mostPresets)
    return refused(`There are ${mostPresets} presets already. Take one away first.`, 'name');
  return done({ id: await addPreset(name, { format, quality, lines: lines ?? null, captions }) });
}

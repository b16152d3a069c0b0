import type { ReelCommand } from '#core/reel';
import { commandDtos } from '../forms/reelDto';
import { check } from './validate.server';

/** Checks an edit of a reel, and every edit in it when it is several. */
export function checkCommand(given: unknown): { ok: true; command: ReelCommand } | { ok: false; problem: string } {
  const type = given && typeof given === 'object' && 'type' in given ? String(given.type) : '';
  const dto = Object.hasOwn(commandDtos, type) ? commandDtos[type as keyof typeof commandDtos] : null;
  if (!dto) return { ok: false, problem: 'Nothing to do.' };
  const checked = check(dto, given);
  if (!checked.ok) return { ok: false, problem: Object.values(checked.problems)[0]! };
  const command = JSON.parse(JSON.stringify(checked.value)) as ReelCommand;
  if (command.type !== 'several') return { ok: true, command };
  const parts = (given as { commands: unknown[] }).commands.map(checkCommand);
  const bad = parts.find((part) => !part.ok);
  if (bad && !bad.ok) return bad;
  return { ok: true, command: { ...command, commands: parts.flatMap((part) => (part.ok ? [part.command] : [])) } };
}

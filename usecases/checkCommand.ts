import type { ReelCommand } from '#core/reel';
import { commandForms } from '#core/reel/commands/forms';
import { done, refused, type Result } from './result';
import { check, plain } from './validate';

/** Checks an edit of a reel, and every edit in it when it is several. */
export function checkCommand(given: unknown): Result<ReelCommand> {
  const type = given && typeof given === 'object' && 'type' in given ? String(given.type) : '';
  const form = Object.hasOwn(commandForms, type) ? commandForms[type as keyof typeof commandForms] : null;
  if (!form) return refused('Nothing to do.', 'command');
  const checked = check<object>(form, given);
  if (!checked.ok) return checked;
  const command = plain(checked.value) as ReelCommand;
  if (command.type !== 'several') return done(command);
  const commands: ReelCommand[] = [];
  for (const part of (given as { commands: unknown[] }).commands) {
    const own = checkCommand(part);
    if (!own.ok) return own;
    commands.push(own.value);
  }
  return done({ ...command, commands });
}

import { refuse, type Edit } from './edit';

export interface Rename {
  type: 'rename';
  name: string;
}
export const rename: Edit<Rename> = {
  apply(reel, command) {
    const name = command.name.trim();
    return name ? { ok: true, reel: { ...reel, name } } : refuse('A reel needs a name.');
  },
  says: ({ name }) => `renamed to “${name}”`,
};

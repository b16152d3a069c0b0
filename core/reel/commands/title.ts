import type { Reel, Title } from '../types';
import { done, refuse, type Edit, type Outcome } from './edit';

/** A new title, or another state of one that is there. */
export interface SetTitle {
  type: 'title';
  title: Title;
}
export const title: Edit<SetTitle> = { apply: setTitle, says: (command) => `set the title “${command.title.text}”` };

export interface RemoveTitle {
  type: 'removeTitle';
  id: string;
}
export const removeTitle: Edit<RemoveTitle> = {
  apply: (reel, { id }) => done({ ...reel, titles: (reel.titles ?? []).filter((each) => each.id !== id) }),
  says: () => 'took a title away',
};

function setTitle(reel: Reel, { title }: SetTitle): Outcome {
  const text = title.text.trim();
  if (!text) return refuse('A title needs a text.');
  if (text.length > 200 || (title.sub ?? '').length > 200)
    return refuse('A line of a title has at most 200 characters.');
  if (title.frames < 2) return refuse('A title stands for at least two frames.');
  const own = { ...title, text, frame: Math.max(0, Math.round(title.frame)), frames: Math.round(title.frames) };
  return done({
    ...reel,
    titles: [...(reel.titles ?? []).filter((each) => each.id !== title.id), own].sort((a, b) => a.frame - b.frame),
  });
}

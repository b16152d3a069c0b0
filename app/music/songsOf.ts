import { isSpeech } from '#core/readings';
import type { Item } from '#usecases/projects';

/**
 * What is offered as music: sound recordings but those of speech.
 * @param chosen one that was chosen in spite of that
 */
export const songsOf = (items: readonly Item[], chosen: string | null): Item[] =>
  items.filter(
    (item) => item.probe?.kind === 'sound' && !item.problem && (item.id === chosen || !isSpeech(item.summary)),
  );

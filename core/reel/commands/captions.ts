import type { CaptionStyle } from '#core/captions';
import type { Reel } from '../types';
import { done, refuse, type Edit, type Outcome } from './edit';

/** Captions over the picture in this style, or none. */
export interface SetCaptions {
  type: 'captions';
  style: CaptionStyle | null;
}
export const captions: Edit<SetCaptions> = { apply: setCaptions, says: () => 'changed the captions' };

const colourForm = /^#[0-9a-f]{6}([0-9a-f]{2})?$/i;

function setCaptions(reel: Reel, { style }: SetCaptions): Outcome {
  const { captions: _, ...rest } = reel;
  if (!style) return done(rest);
  if (
    ![
      ...[style.colour, style.lit, style.emphasis, style.outline],
      ...(style.box ? [style.box] : []),
      ...(style.speakers ?? []),
    ].every((colour) => colourForm.test(colour))
  )
    return refuse('A colour is written like #ffc95c.');
  if (!(style.size >= 2 && style.size <= 16)) return refuse('Captions are 2 to 16 hundredths of the picture high.');
  if (!(style.place >= 0.05 && style.place <= 0.95)) return refuse('Captions stand inside the picture.');
  if (!(style.letters >= 10 && style.letters <= 84) || !(style.outlineWidth >= 0 && style.outlineWidth <= 30))
    return refuse('A caption has 10 to 84 characters, and an outline of at most 30 hundredths of them.');
  return done({ ...rest, captions: style });
}

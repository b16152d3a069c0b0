import type { Logo, Reel } from '../types';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';

/** A picture in a corner, or none. */
export interface SetLogo {
  type: 'logo';
  logo: Logo | null;
}
export const logo: Edit<SetLogo> = { apply: setLogo, says: () => 'changed the logo' };

function setLogo(reel: Reel, { logo }: SetLogo, sources: Sources): Outcome {
  const { logo: _, ...rest } = reel;
  if (!logo) return done(rest);
  if (!sources.get(logo.media)?.photo) return refuse('A logo is a picture of the project.');
  if (!(logo.size >= 0.03 && logo.size <= 0.6) || !(logo.opacity > 0 && logo.opacity <= 1))
    return refuse('A logo is 3 to 60 hundredths of the picture wide, and can be seen.');
  return done({ ...rest, logo });
}

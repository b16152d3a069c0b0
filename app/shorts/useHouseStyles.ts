import { useState } from 'react';
import { captionDefaults } from '#core/captions';
import { dressInStyle, type HouseStyle, type Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { newId } from '../newId';
import type { ReelDesk } from '../reel/useReelDesk';
import { useReload } from '../ui/useReload';
import { tell } from '../ui/ask';

/** What a house style says of a title; the reel's own name is a gap to be filled in. */
function cardOf(reel: Reel, kind: 'opening' | 'lower' | 'end') {
  const title = reel.titles?.find((each) => each.kind === kind);
  if (!title) return null;
  const seconds = Math.max(0.5, Math.round(framesToSeconds(title.frames, reel.rate) * 10) / 10);
  return { text: title.text === reel.name ? '{title}' : title.text, sub: title.sub ?? '', seconds };
}

/** What a reel wears, as a house style. */
function wornBy(reel: Reel): HouseStyle {
  const opening = cardOf(reel, 'opening');
  return {
    captions: reel.captions ?? captionDefaults,
    theme: reel.theme ?? null,
    logo: reel.logo ?? null,
    opening: opening && { text: opening.text, seconds: opening.seconds },
    lower: cardOf(reel, 'lower'),
    end: cardOf(reel, 'end'),
  };
}

/** Puts house styles on the reel of a desk, keeps what it wears as one, and forgets them. */
export function useHouseStyles({ document: reel, live, items }: ReelDesk, projectId: string) {
  const reload = useReload();
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (body: object): Promise<boolean> => {
    const said = await tell(`/projects/${projectId}/house-styles`, body);
    setProblem(said.problem);
    void reload();
    return said.problem === null;
  };
  return {
    problem,
    keep: async (name: string, shared: boolean) =>
      reel ? send({ intent: 'save', name, shared, document: wornBy(reel) }) : false,
    forget: (id: string) => void send({ intent: 'delete', id }),
    dress: (style: HouseStyle, name: string) => {
      if (!reel) return;
      // A logo of another project is left out.
      const isHere = items.some((item) => item.id === style.logo?.media && item.probe?.kind === 'photo');
      const own = { ...style, logo: isHere ? style.logo : null };
      live.edit(dressInStyle(reel, own, name, newId));
    },
  };
}

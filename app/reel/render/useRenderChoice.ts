import { useState } from 'react';
import { outputFor, purposeNames, purposes, sameCoding, type Coding, type Reel } from '#core/reel';
import type { Preset } from '#usecases/presets';

/** A way to make a file that can be ticked: for a purpose, a preset of one's own, or as it is set by hand. */
export interface FileWay {
  id: string;
  name: string;
  says: string;
  coding: Coding;
  /** Whether it is a preset of one's own. */
  isOwn: boolean;
}

/** The way that is set by hand. */
export const byHand = 'by hand';
const nothingSet: Coding = { format: 'mp4', quality: 'good', lines: null, captions: 'burnt' };

/** Ways to make files of a reel, and which of them are ticked. */
export function useRenderChoice(reel: Reel | null, presets: readonly Preset[]) {
  const [ticked, setTicked] = useState<readonly string[]>(['web']);
  const [set, setSet] = useState<Coding>(nothingSet);
  const own = reel ? Math.min(reel.size.width, reel.size.height) : 720;
  const ways: FileWay[] = [
    ...(reel
      ? purposes.map((purpose) => ({
          id: purpose,
          ...purposeNames[purpose],
          coding: outputFor(purpose, reel),
          isOwn: false,
        }))
      : []),
    ...presets.map(({ id, name, coding }) => ({ id, name, says: '', coding, isOwn: true })),
  ];
  const chosen = ways.filter(({ id }) => ticked.includes(id));
  if (ticked.includes(byHand)) chosen.push({ id: byHand, name: '', says: '', coding: set, isOwn: false });
  const tick = (id: string, on: boolean) => {
    // What is set by hand begins with what was looked at last.
    if (id === byHand && on) setSet(chosen.at(-1)?.coding ?? nothingSet);
    setTicked((before) => (on ? [...before, id] : before.filter((each) => each !== id)));
  };
  /** The one file that is made, otherwise than it was: another way that is known, or by hand. */
  const change = (next: Coding) => {
    setSet(next);
    setTicked([ways.find(({ coding }) => sameCoding(coding, next, own))?.id ?? byHand]);
  };
  return {
    ways,
    chosen,
    tick,
    change,
    /** The coding whose fields are shown; null while several are ticked. */
    shown: chosen.length === 1 ? chosen[0]!.coding : null,
    isByHand: ticked.includes(byHand),
    choose: (id: string) => setTicked([id]),
    own,
  };
}
export type RenderChoice = ReturnType<typeof useRenderChoice>;

import { Minus, Plus } from 'lucide-react';
import { ingredientNames, weightShares, type Ingredient, type Mix } from '#core/moments';
import { formatClock } from '#core/time';
import { Button, ShareBar } from '../ui/controls';
import type { Why } from '../workers/protocol';
import { colours } from './drawLine';

export const ingredientLooks: Record<Ingredient, { label: string; colour: string }> = {
  people: { label: 'People', colour: colours.faces },
  talk: { label: 'Talk', colour: colours.speech },
  action: { label: 'Action', colour: colours.motion },
  camera: { label: 'Camera moves', colour: colours.camera },
  sound: { label: 'Loud moments', colour: colours.sound },
  picture: { label: 'Light and focus', colour: colours.text },
};

/** What a stretch is, why it was picked or not, and what would change that. */
export function WhyPanel({ why, mix, water, onKeep, onDrop }: { why: Why | null; mix: Mix; water: number; onKeep(): void; onDrop(): void }) {
  if (!why) return <p className="text-muted">Click a lit stretch, or mark a range by dragging over the page, and its reasons show here.</p>;
  const order = [...ingredientNames].sort((a, b) => why.shares[b] - why.shares[a]);
  const shares = weightShares(mix);
  const scale = Math.max(20, ...ingredientNames.map((name) => shares[name] * 110));
  return (
    <div className="flex min-h-full flex-col">
      <h2 className="text-base font-semibold">{why.title}</h2>
      <p className="mb-2 text-muted">{Math.round(why.score)} of 100{why.kept && ` · ${ordinal(why.rank)} of ${why.of}`} · {(why.end - why.start).toFixed(1)} s from {formatClock(why.start, true)}</p>
      {order.map((name) => <ShareBar key={name} {...ingredientLooks[name]} phrase={why.phrases[name]} points={why.shares[name]} scale={scale} />)}
      <p className="mt-1 rounded-md bg-raised px-3 py-1.5" data-testid="because">{sentence(why, water)}</p>
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-[#12191f] pb-3 pt-2">
        <Button keys="+" onClick={onKeep} aria-pressed={why.verdict === 'keep'} className={why.verdict === 'keep' ? '!border-lamp' : ''}><Plus size={15} aria-hidden /> Keep</Button>
        <Button keys="−" onClick={onDrop} aria-pressed={why.verdict === 'drop'} className={why.verdict === 'drop' ? '!border-text' : ''}><Minus size={15} aria-hidden /> Drop</Button>
      </div>
    </div>
  );
}

const ordinal = (place: number) => `${place}${place % 100 >= 11 && place % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][place % 10] ?? 'th')}`;
const flawWords = { shaky: 'shakes too much', blurred: 'is out of focus', dark: 'is too dark', frozen: 'stands still', whip: 'is a whip pan', unread: 'was not read' };

/** In plain words: what keeps it, or what would. */
function sentence(why: Why, water: number): string {
  if (why.verdict === 'keep') return 'Kept by hand: it stays whatever the water does. Press + again to leave it to the machine.';
  if (why.verdict === 'drop') return 'Dropped by hand: it stays out whatever the water does. Press − again to leave it to the machine.';
  if (why.flaws.length) {
    const flaw = why.flaws[0]!;
    return `From ${formatClock(flaw.start, true)} to ${formatClock(flaw.end, true)} the picture ${flawWords[flaw.kind]}, so the limits shut it out. Move the limit under Mix, or keep it by hand.`;
  }
  if (why.kept) return why.leavesAt === null || why.leavesAt > 99 ? 'Stays at any water level.' : `Stays until the water rises above ${Math.max(Math.round(why.leavesAt), Math.ceil(water))}; it stands at ${Math.round(water)}.`;
  if (why.leavesAt === null) return 'Under the water: no level would keep it as one piece. Keep it by hand if you want it.';
  return `Under the water, which stands at ${Math.round(water)}. Lower it by ${Math.max(1, Math.ceil(water - why.leavesAt))} and this comes in.`;
}

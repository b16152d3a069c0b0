import { CornerDownLeft, Minus, Plus } from 'lucide-react';
import { decimal } from '#core/sentences';
import { ingredientNames, weightShares, type Flaw, type Ingredient, type Mix, type Remedy } from '#core/moments';
import { formatClock } from '#core/time';
import { useShownKey } from '../../keys';
import { Button, ShareBar } from '../../ui/controls';
import type { Why } from '../../workers/protocol';
import { colours } from '../../drawing/inks';

export const ingredientLooks: Record<Ingredient, { label: string; colour: string }> = {
  people: { label: 'People', colour: colours.faces },
  talk: { label: 'Talk', colour: colours.speech },
  action: { label: 'Action', colour: colours.motion },
  camera: { label: 'Camera moves', colour: colours.camera },
  sound: { label: 'Sound bursts', colour: colours.sound },
  picture: { label: 'Light and focus', colour: colours.text },
};

interface WhyPanelProps {
  why: Why | null;
  /** What keys and buttons act on, in words. */
  what: string | null;
  mix: Mix;
  water: number;
  onKeep(): void;
  onDrop(): void;
  onToReel(): void;
  /** Tries a remedy: the weight moves, the water stands still. */
  onRemedy(remedy: Remedy): void;
  onWater(level: number): void;
  onGoTo(media: string, seconds: number): void;
  /** The next take is kept instead. */
  onOtherTake(): void;
}

/** What a stretch is, why it was picked or not, and what would change that. */
export function WhyPanel({
  why,
  what,
  mix,
  water,
  onKeep,
  onDrop,
  onToReel,
  onRemedy,
  onWater,
  onGoTo,
  onOtherTake,
}: WhyPanelProps) {
  if (!why)
    return (
      <p className="text-muted">
        Click a lit stretch, or mark a range by dragging over the page, and its reasons show here.
      </p>
    );
  const order = [...ingredientNames].sort((a, b) => why.shares[b] - why.shares[a]);
  const shares = weightShares(mix);
  const scale = Math.max(20, ...ingredientNames.map((name) => shares[name] * 110));
  return (
    <div className="flex min-h-full flex-col">
      <h2 className="text-base font-semibold">{why.title}</h2>
      <p className="mb-1.5 text-muted">
        {Math.round(why.score)} of 100{why.kept && ` · ${ordinal(why.rank)} of ${why.of}`} ·{' '}
        {decimal(why.end - why.start, 1)} s from {formatClock(why.start, true)}
        {what && ` · ${what}`}
      </p>
      {order.map((name) => (
        <ShareBar
          key={name}
          {...ingredientLooks[name]}
          phrase={why.phrases[name]}
          points={why.shares[name]}
          scale={scale}
        />
      ))}
      <div className="mt-1 rounded-md bg-raised px-3 py-1.5" data-testid="because">
        {sentence(why, water)}
        {why.because && <> It {why.because}.</>}
        <Doubles why={why} onGoTo={onGoTo} onOtherTake={onOtherTake} />
        <Changes why={why} water={water} onRemedy={onRemedy} onWater={onWater} />
      </div>
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-panel pb-3 pt-2">
        <Button
          command="keep"
          onClick={onKeep}
          aria-pressed={why.verdict === 'keep'}
          className={why.verdict === 'keep' ? '!border-lampline' : ''}
        >
          <Plus size={15} aria-hidden /> Keep
        </Button>
        <Button
          command="drop"
          onClick={onDrop}
          aria-pressed={why.verdict === 'drop'}
          className={why.verdict === 'drop' ? '!border-text' : ''}
        >
          <Minus size={15} aria-hidden /> Drop
        </Button>
        <Button command="append" className="ml-auto" onClick={onToReel}>
          <CornerDownLeft size={15} aria-hidden /> Add to reel
        </Button>
      </div>
    </div>
  );
}

/** All takes of the same thing, the one that is taken marked, each one press away. */
function Doubles({ why, onGoTo, onOtherTake }: Pick<WhyPanelProps, 'onGoTo' | 'onOtherTake'> & { why: Why }) {
  const shown = useShownKey();
  if (why.doubles.length === 0) return null;
  const most = 6;
  return (
    <p className="mt-1.5 flex flex-wrap items-center gap-1.5 text-xs text-muted" data-testid="doubles">
      {why.kept ? 'Taken instead of' : 'Another take of it is in:'}
      {why.doubles.slice(0, most).map(({ media, start, differs }) => (
        <span key={`${media}${start}`}>
          <Change label={formatClock(start, true)} onPress={() => onGoTo(media, start)} /> {differs}
        </span>
      ))}
      {why.doubles.length > most && `and ${why.doubles.length - most} more`}
      {why.kept && <Change label={`Use the next one (${shown('otherTake')})`} onPress={onOtherTake} />}
    </p>
  );
}

/** Each change that would bring it in or take it out, as a button that makes it. */
function Changes({
  why,
  water,
  onRemedy,
  onWater,
}: Pick<WhyPanelProps, 'water' | 'onRemedy' | 'onWater'> & { why: Why }) {
  if (why.verdict || (why.flaws.length > 0 && !why.kept)) return null;
  const level = why.leavesAt === null ? null : why.kept ? Math.ceil(why.leavesAt + 0.5) : Math.floor(why.leavesAt);
  const waterStep = level === null || level < 0 || level > 100 ? null : level;
  return (
    <p className="mt-1.5 flex flex-wrap items-center gap-1.5 text-xs text-muted" data-testid="remedies">
      {why.kept ? 'Out with' : 'In with'}
      {waterStep !== null && (
        <Change
          label={
            why.kept
              ? `the water up ${Math.max(1, Math.ceil(waterStep - water))}`
              : `the water down ${Math.max(1, Math.ceil(water - waterStep))}`
          }
          onPress={() => onWater(waterStep)}
        />
      )}
      {why.remedies === null ? (
        <span role="status">…</span>
      ) : (
        why.remedies
          .slice(0, 2)
          .map((remedy) => (
            <Change
              key={`${remedy.ingredient}${remedy.by}`}
              label={`${remedy.by > 0 ? '+' : '−'}${Math.abs(remedy.by)} on ${ingredientLooks[remedy.ingredient].label.toLowerCase()}`}
              onPress={() => onRemedy(remedy)}
            />
          ))
      )}
      {waterStep === null && why.remedies?.length === 0 && 'no single weight or level.'}
    </p>
  );
}

const Change = ({ label, onPress }: { label: string; onPress(): void }) => (
  <button
    type="button"
    className="rounded border border-line px-1.5 leading-5 text-text hover:border-muted"
    onClick={onPress}
  >
    {label}
  </button>
);

const ordinal = (place: number) =>
  `${place}${place % 100 >= 11 && place % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][place % 10] ?? 'th')}`;
const flawWords: Record<Flaw['kind'], string> = {
  shaky: 'the picture shakes too much',
  blurred: 'the picture is out of focus',
  dark: 'the picture is too dark',
  flat: 'it has hardly any contrast',
  white: 'too much of it is pure white',
  clipped: 'its sound is clipped',
  wind: 'wind blows into the microphone',
  plain: 'there is nothing to see in it',
  frozen: 'the picture is frozen',
  whip: 'it is a whip pan',
  silent: 'it is silent',
  outside: 'it lies outside the in and out points of the file',
  unread: 'it was not read',
};

/** In plain words: what keeps it, or what would. */
function sentence(why: Why, water: number): string {
  if (why.verdict === 'keep')
    return 'Kept by hand: it stays whatever the water does. Press + again to leave it to the machine.';
  if (why.verdict === 'drop')
    return 'Dropped by hand: it stays out whatever the water does. Press − again to leave it to the machine.';
  if (why.flaws.length && !why.kept) {
    const flaw = why.flaws[0]!;
    return `From ${formatClock(flaw.start, true)} to ${formatClock(flaw.end, true)} ${flawWords[flaw.kind]}, so the limits shut it out. Move the limit under Mix, or keep it by hand.`;
  }
  if (why.kept)
    return why.leavesAt === null || why.leavesAt > 99
      ? 'Stays at any water level. Passed every limit.'
      : `Stays until the water rises above ${Math.max(Math.round(why.leavesAt), Math.ceil(water))}. Passed every limit.`;
  if (why.leavesAt === null)
    return 'Under the water: no level would keep it as one piece. Keep it by hand if you want it.';
  return `Under the water, which stands at ${Math.round(water)}. Passed every limit.`;
}

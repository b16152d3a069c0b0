import { WandSparkles } from 'lucide-react';
import { memo, useEffect, useMemo, useState } from 'react';
import { wordsInReel } from '#core/formats';
import { clipsOf, moveSpan, spanOfWords, strikeOut } from '#core/reel';
import { counted, decimal, listOf } from '#core/sentences';
import { formatClock } from '#core/time';
import { isDoubtful, sentences, type Sentence } from '#core/words';
import { newId } from '../../newId';
import { Button } from '../../ui/controls';
import { LongList } from '../../ui/LongList';
import { useWordChoice, type WordChoice } from '../../words/useWordChoice';
import type { ReelDesk } from '../useReelDesk';
import { useTidy, type MarkedDisfluency } from './useTidy';

type Said = ReturnType<typeof wordsInReel>;

/** What is said in a reel, as a text: chosen words are struck out of it or moved, and the reel follows. */
export function TextPanel({ desk }: { desk: ReelDesk }) {
  const { document: reel, spoken, player, live, sources } = desk;
  const media = useMemo(() => (reel ? [...new Set(clipsOf(reel).map((clip) => clip.media))].sort() : []), [reel]);
  const { need, words: known } = spoken;
  useEffect(() => need(media), [need, media]);
  const isKnown = media.every((id) => known.has(id));
  const said: Said = useMemo(() => (reel ? wordsInReel(reel, (id) => known.get(id)?.words ?? []) : []), [reel, known]);
  const spokenSentences = useMemo(() => sentences(said), [said]);
  const sentenceOf = (at: number) => spokenSentences.findIndex(({ from, to }) => at >= from && at < to);
  const [refused, setRefused] = useState<string | null>(null);

  const strike = ({ from, to }: WordChoice): boolean => {
    if (!reel) return false;
    const name = `struck out “${shortened(textOf(said, { from, to }))}”`;
    const result = strikeOut(reel, [spanOfWords(reel, said, from, to)], name, sources, newId);
    setRefused(result.ok ? null : result.reason);
    if (result.ok && live.edit(result.command)) choosing.choose(null);
    return true;
  };
  const move = (chosen: WordChoice, direction: -1 | 1): boolean => {
    if (!reel) return false;
    const target = targetOf(spokenSentences, chosen, direction);
    if (!target) return true;
    const place = spanOfWords(reel, said, target.from, target.to);
    const result = moveSpan(
      reel,
      spanOfWords(reel, said, chosen.from, chosen.to),
      direction < 0 ? place.from : place.to,
      `moved “${shortened(textOf(said, chosen))}”`,
      sources,
      newId,
    );
    setRefused(result.ok ? null : result.reason);
    if (!result.ok || !live.edit(result.command)) return true;
    const count = chosen.to - chosen.from;
    const from = direction < 0 ? target.from : target.to - count;
    choosing.choose({ from, to: from + count });
    return true;
  };
  const choosing = useWordChoice({
    count: said.length,
    arrows: {
      sentenceBefore: (at) => spokenSentences[Math.max(0, sentenceOf(at) - 1)]?.from ?? 0,
      sentenceAfter: (at) => spokenSentences[Math.min(spokenSentences.length - 1, sentenceOf(at) + 1)]?.from ?? 0,
    },
    onGo: (at) => player.seek(said[at]!.start + 1e-3),
    onKey: (event, chosen) => {
      if (!chosen) return false;
      if (event.key === 'Delete' || event.key === 'Backspace') return strike(chosen);
      if (event.altKey && event.key === 'ArrowUp') return move(chosen, -1);
      if (event.altKey && event.key === 'ArrowDown') return move(chosen, 1);
      return false;
    },
  });
  const { choice, head } = choosing;
  const tidy = useTidy(desk, said, setRefused);
  if (!reel) return null;
  if (!isKnown) return <p className="text-muted">Looking for words…</p>;
  const here = spokenSentences.findLastIndex((each) => each.start <= player.time + 0.02);
  const shown = head !== null && !player.playing ? sentenceOf(head) : here;
  const locked = live.reel?.readOnly ?? false;
  return (
    <div className="flex min-h-full flex-col">
      <p className="mb-2 text-xs text-muted">
        {said.length === 0
          ? 'Nothing that is said in this reel is known as words. Transcribe its footage, or bring in a text, in Moments.'
          : `${counted(said.length, 'word')}. Draw over some and strike them out: the reel closes up behind them.`}
      </p>
      {(refused ?? spoken.problem) && (
        <p role="alert" className="mb-2 rounded-md bg-raised px-3 py-2 text-shake">
          {refused ?? spoken.problem}
        </p>
      )}
      <div
        {...choosing.boxProps}
        role="application"
        aria-label="What is said in the reel"
        aria-roledescription="text of the reel"
        className="rounded-md outline-none focus-visible:ring-1 focus-visible:ring-muted"
      >
        <LongList
          label="Sentences"
          items={spokenSentences}
          keyOf={(each) => `${each.from} ${said[each.from]!.media} ${said[each.from]!.index}`}
          height={60}
          current={shown}
          align="center"
        >
          {(each, index) => (
            <SaidSentence
              sentence={each}
              said={said}
              from={choice ? Math.max(choice.from, each.from) : 0}
              to={choice ? Math.min(choice.to, each.to) : 0}
              marked={tidy.marked}
              onToggle={tidy.toggle}
              seconds={index === here ? player.time : null}
              onChoose={choosing.choose}
            />
          )}
        </LongList>
      </div>
      {said.length > 0 && (
        <div className="sticky -bottom-3 mt-auto flex flex-wrap gap-2 bg-panel pb-3 pt-2">
          {tidy.isOn && <TidyLine tidy={tidy} locked={locked} />}
          <Button keys="Del" disabled={!choice || locked} onClick={() => choice && strike(choice)}>
            Strike out{choice ? ` ${counted(choice.to - choice.from, 'word')}` : ''}
          </Button>
          <Button keys="Alt ↑" disabled={!choice || locked} onClick={() => choice && move(choice, -1)}>
            Earlier
          </Button>
          <Button keys="Alt ↓" disabled={!choice || locked} onClick={() => choice && move(choice, 1)}>
            Later
          </Button>
          {!tidy.isOn && (
            <Button disabled={locked} onClick={() => tidy.setOn(true)}>
              <WandSparkles size={15} aria-hidden /> Tidy speech
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

const textOf = (said: Said, { from, to }: WordChoice) =>
  said
    .slice(from, to)
    .map(({ text }) => text)
    .join(' ');

/** As much of a text as the history shows. */
const shortened = (text: string) => (text.length > 40 ? `${text.slice(0, 39).trimEnd()}…` : text);

/** The sentence before or after which words go; their own where they are only a part of it. */
function targetOf(all: readonly Sentence[], { from, to }: WordChoice, direction: -1 | 1): Sentence | null {
  if (direction < 0) return all.findLast((each) => each.from < from) ?? null;
  return all.find((each) => each.to > to) ?? null;
}

interface TidyLineProps {
  tidy: ReturnType<typeof useTidy>;
  locked: boolean;
}

/** What is found to tidy, and the press that takes it out. */
function TidyLine({ tidy, locked }: TidyLineProps) {
  const { marked, going, later, seconds, covers, isLooking } = tidy;
  const of = (kind: MarkedDisfluency['kind']) => marked.filter((one) => one.kind === kind).length;
  const parts = [
    of('filler') > 0 && counted(of('filler'), 'filler'),
    of('false start') > 0 && counted(of('false start'), 'false start'),
    of('earlier take') > 0 && counted(of('earlier take'), 'earlier take'),
  ].filter((part) => part !== false);
  return (
    <div role="group" aria-label="Tidy speech" className="w-full border-b border-line pb-2">
      <p role="status" className="mb-2 text-xs text-muted">
        {marked.length === 0
          ? 'No filler, no false start and no earlier take is heard for certain.'
          : `${listOf(parts)}, struck through. Press one to keep it.${later > 0 ? ` The first ${going} go at once.` : ''}`}
      </p>
      {marked.length > 0 && (
        <label
          className="mb-2 flex items-center gap-1.5 text-sm"
          title="Where something fits, other footage in which nobody speaks lies above; the speech goes on"
        >
          <input type="checkbox" checked={covers} onChange={(event) => tidy.setCovers(event.target.checked)} /> Cover
          jump cuts
        </label>
      )}
      <div className="flex gap-2">
        {marked.length > 0 && (
          <Button look="lamp" disabled={locked || going === 0 || isLooking} onClick={() => void tidy.takeOut()}>
            {isLooking ? 'Looking for pictures…' : `Take out ${counted(going, 'place')}, ${decimal(seconds, 1)} s`}
          </Button>
        )}
        <Button onClick={() => tidy.setOn(false)}>Leave it</Button>
      </div>
    </div>
  );
}

interface SaidSentenceProps {
  sentence: Sentence;
  said: Said;
  /** What can be tidied out of the reel. */
  marked: readonly MarkedDisfluency[];
  onToggle(key: string): void;
  /** What of it is chosen; nothing where these are the same or the wrong way round. */
  from: number;
  to: number;
  /** The playhead, in seconds of the reel; null while another sentence is being said. */
  seconds: number | null;
  onChoose(choice: WordChoice): void;
}

const disfluencyWords: Record<MarkedDisfluency['kind'], string> = {
  filler: 'A filler',
  'false start': 'A false start',
  'earlier take': 'An earlier take of the next sentence',
};

const SaidSentence = memo(function SaidSentence({
  sentence,
  said,
  from,
  to,
  seconds,
  marked,
  onToggle,
  onChoose,
}: SaidSentenceProps) {
  const own = marked.filter((one) => one.from < sentence.to && one.to > sentence.from);
  return (
    <p className={`mb-1 rounded px-1.5 py-0.5 leading-6 ${seconds !== null ? 'bg-raised' : ''}`}>
      <button
        type="button"
        title="Choose the sentence"
        aria-label={`Choose the sentence at ${formatClock(sentence.start)}`}
        tabIndex={-1}
        className="tabular mr-2 text-xs text-muted hover:text-text"
        onClick={() => onChoose({ from: sentence.from, to: sentence.to })}
      >
        {formatClock(sentence.start)}
      </button>
      {said.slice(sentence.from, sentence.to).map((word, offset) => {
        const at = sentence.from + offset;
        const isChosen = at >= from && at < to;
        const one = own.find((each) => at >= each.from && at < each.to);
        const isNow = seconds !== null && seconds >= word.start && seconds < word.end;
        const look = isChosen
          ? 'bg-text text-ground'
          : `rounded-sm ${isNow ? 'bg-line' : 'hover:bg-line'} ${isDoubtful(word) ? 'text-muted underline decoration-dotted underline-offset-2' : ''}`;
        if (one)
          return (
            <button
              key={at}
              type="button"
              aria-pressed={one.stays}
              title={`${disfluencyWords[one.kind]}. ${one.stays ? 'It stays; press to take it out' : 'Press to keep it'}`}
              onClick={() => onToggle(one.key)}
              className={`rounded-sm px-0.5 hover:bg-line ${one.stays ? 'underline decoration-dashed underline-offset-2' : 'text-muted line-through'}`}
            >
              {word.text}{' '}
            </button>
          );
        return (
          <span key={at} data-word={at} className={`cursor-text px-0.5 py-0.5 ${look}`}>
            {word.text}{' '}
          </span>
        );
      })}
    </p>
  );
});

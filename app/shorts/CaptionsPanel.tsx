import { FileInput, Hand, Link2, Star, Unlink, Volume2 } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import { easyReading, fastestReading, lineText, tappedTimes, type CaptionLine, type HeardWord } from '#core/captions';
import { mainTrack, segmentAt } from '#core/reel';
import { formatClock, framesToSeconds, secondsToFrames } from '#core/time';
import { doubtfulUnder } from '#core/words';
import type { ImportQuestion } from '#usecases/words';
import { FileLink } from '../history/FileLink';
import { historyOf } from '../history/history';
import { ImportAsk } from '../words/OtherTexts';
import type { ReelDesk } from '../reel/useReelDesk';
import { Button, IconButton, inputLook } from '../ui/controls';
import { WordStrip } from './WordStrip';

/** Times of words are kept in milliseconds. */
const millisecond = (seconds: number): number => Math.round(seconds * 1000) / 1000;

interface CaptionsPanelProps {
  desk: ReelDesk;
  /** Second of the source that is shown at a second of the reel. */
  sourceAt(seconds: number): number;
  onStyle(): void;
}

/** What is said, caption by caption: words are corrected, marked and parted in place; times are dragged or tapped. */
export function CaptionsPanel({ desk, sourceAt, onStyle }: CaptionsPanelProps) {
  const { captions, player, spoken, document: reel } = desk;
  const media = reel ? (mainTrack(reel).items.find((item) => item.kind === 'clip')?.media ?? null) : null;
  const { edit, problem, forget } = spoken;
  const reelAddress = desk.reel ? `/projects/${desk.reel.projectId}/reels/${desk.reel.id}` : null;
  const [word, setWord] = useState<Pick<HeardWord, 'media' | 'index'> | null>(null);
  const [editing, setEditing] = useState<number | null>(null);
  const [taps, setTaps] = useState<number[] | null>(null);
  const current = useRef<HTMLLIElement>(null);
  const here = captions.findLastIndex((line) => line.start <= player.time + 0.02);
  useEffect(
    () => void (player.playing && current.current?.scrollIntoView({ block: 'nearest' })),
    [here, player.playing],
  );
  const isChosen = (each: HeardWord) => each.index === word?.index && each.media === word.media;
  const chosen = captions.flatMap((line) => line.words).find(isChosen) ?? null;
  const ofChosen = chosen ? (captions.find((line) => line.words.includes(chosen)) ?? null) : null;
  const flag = (flags: { emphasis?: boolean; breakAfter?: boolean | null }) =>
    chosen && edit(chosen.media, { type: 'flag', index: chosen.index, ...flags });
  const stopAt = useRef<ReturnType<typeof setTimeout> | null>(null);
  /** Plays one caption and stops behind it. */
  const hear = (line: CaptionLine) => {
    if (stopAt.current) clearTimeout(stopAt.current);
    player.seek(Math.max(0, line.words[0]!.start - 0.1));
    player.play();
    stopAt.current = setTimeout(() => player.pause(), (line.words.at(-1)!.end - line.words[0]!.start + 0.3) * 1000);
  };
  useEffect(
    () => () => {
      if (stopAt.current) clearTimeout(stopAt.current);
    },
    [],
  );
  /** The first frame on which a time has come, as captions count it: the nearest. */
  const show = (seconds: number) =>
    reel && player.seek(framesToSeconds(secondsToFrames(seconds, reel.rate), reel.rate) + 1e-3);
  const tap = () => {
    if (!taps) return;
    const at = player.exact();
    if (taps.length < captions.length && (taps.length === 0 || at > taps.at(-1)! + 0.1)) setTaps([...taps, at]);
  };
  const finishTaps = () => {
    player.pause();
    const segments = desk.segments.map((each) => ({ start: each.startSeconds, end: each.endSeconds }));
    // Of several files, one step all the same.
    historyOf(desk.reel!.projectId).together(() => {
      for (const { media: of, from, starts, end } of tappedTimes(captions, taps ?? [], segments, sourceAt))
        edit(of, { type: 'retime', from, starts: starts.map(millisecond), end: millisecond(end) });
    });
    setTaps(null);
  };
  useEffect(() => {
    if (!taps) return;
    const key = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 't' && !(event.target instanceof HTMLInputElement)) {
        event.preventDefault();
        tap();
      } else if (event.key === 'Escape') setTaps(null);
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });
  if (!reel || !media) return null;
  if (!reel.captions)
    return (
      <div className="space-y-3">
        <p className="text-muted">This short has no captions.</p>
        <Button onClick={onStyle}>Give it captions</Button>
      </div>
    );
  const known = spoken.words.get(word?.media ?? media);
  if (!known) return <p className="text-muted">Looking for words…</p>;
  const fast = captions.filter((line) => line.pace > fastestReading + 0.05).length;
  const doubtful = captions.flatMap((line) => line.words).filter((each) => each.confidence < doubtfulUnder).length;
  return (
    <div className="flex min-h-full flex-col">
      {problem && (
        <p role="alert" className="mb-2 flex rounded-md bg-raised px-3 py-2 text-shake">
          {problem}
          <button type="button" className="ml-auto text-muted" onClick={forget}>
            ×
          </button>
        </p>
      )}
      {captions.length === 0 ? (
        <TypeIn
          desk={desk}
          onType={(text, start, end) =>
            edit(media, { type: 'type', text, start: millisecond(start), end: millisecond(end) })
          }
        />
      ) : (
        <p className="mb-2 text-xs text-muted">
          {captions.length} captions
          {doubtful ? `, ${doubtful} doubtful ${doubtful === 1 ? 'word' : 'words'}, dotted` : ''}
          {fast ? `, ${fast} faster than can be read` : ''}. Double-click to correct.
        </p>
      )}
      <ol className="space-y-1">
        {captions.map((line, index) => (
          <li
            key={`${line.words[0]!.media} ${line.words[0]!.index}-${line.words.length}`}
            ref={index === here ? current : undefined}
            className={`rounded px-1.5 py-1 ${index === here ? 'bg-raised' : ''}`}
            data-caption={index}
          >
            <div className="flex items-start gap-2">
              <button
                type="button"
                className="tabular pt-0.5 text-xs text-muted hover:text-text"
                onClick={() => show(line.start)}
              >
                {formatClock(line.start, true)}
              </button>
              {editing === index ? (
                <EditLine
                  line={line}
                  onCancel={() => setEditing(null)}
                  onSave={(text) => {
                    setEditing(null);
                    if (text !== lineText(line.words))
                      edit(line.words[0]!.media, {
                        type: 'correct',
                        from: line.words[0]!.index,
                        to: line.words.at(-1)!.index + 1,
                        text,
                      });
                  }}
                />
              ) : (
                <span className="leading-5" onDoubleClick={() => setEditing(index)}>
                  {line.words.map((each, at) => (
                    <span key={`${each.media} ${each.index}`}>
                      <button
                        type="button"
                        onClick={() => {
                          setWord(each);
                          show(each.start);
                        }}
                        title={each.confidence < doubtfulUnder ? 'Doubtful; double-click to correct' : undefined}
                        data-word={each.index}
                        className={`rounded px-px hover:bg-line ${isChosen(each) ? 'bg-line' : ''} ${each.emphasis ? 'font-semibold' : ''} ${each.confidence < doubtfulUnder ? 'underline decoration-dotted underline-offset-2' : ''}`}
                        style={
                          player.time >= each.start && player.time < each.end
                            ? { color: reel.captions!.lit }
                            : each.emphasis
                              ? { color: reel.captions!.emphasis }
                              : undefined
                        }
                      >
                        {each.text}
                      </button>
                      {at === line.firstRow - 1 && line.firstRow < line.words.length ? <br /> : ' '}
                    </span>
                  ))}
                </span>
              )}
              {line.pace > easyReading && (
                <span
                  className={`tabular ml-auto whitespace-nowrap pt-0.5 text-xs ${line.pace > fastestReading + 0.05 ? 'text-shake' : 'text-muted'}`}
                  title={`Letters a second; ${easyReading} are read with ease, ${fastestReading} at the most`}
                >
                  {line.pace.toFixed(0)}/s
                </span>
              )}
            </div>
            {ofChosen === line && chosen && (
              <div className="mt-1.5 space-y-1.5">
                <WordStrip
                  media={chosen.media}
                  words={known.words}
                  from={line.words[0]!.index}
                  to={line.words.at(-1)!.index + 1}
                  chosen={chosen.index}
                  time={sourceAt(player.time)}
                  onRetime={(at, start) =>
                    edit(chosen.media, {
                      type: 'retime',
                      from: at,
                      starts: [millisecond(start)],
                      end: millisecond(Math.max(start + 0.05, known.words[at]!.end)),
                    })
                  }
                />
                <div
                  className="flex flex-wrap items-center gap-1"
                  role="group"
                  aria-label={`The word “${chosen.text}”`}
                >
                  <IconButton label="Hear this caption" onClick={() => hear(line)}>
                    <Volume2 size={14} />
                  </IconButton>
                  <IconButton
                    label={chosen.emphasis ? 'No longer important' : 'Important: in its own colour'}
                    aria-pressed={chosen.emphasis ?? false}
                    className={chosen.emphasis ? 'bg-line' : ''}
                    onClick={() => flag({ emphasis: !chosen.emphasis })}
                  >
                    <Star size={14} />
                  </IconButton>
                  <IconButton
                    label="A new caption after this word"
                    aria-pressed={chosen.breakAfter === true}
                    className={chosen.breakAfter === true ? 'bg-line' : ''}
                    onClick={() => flag({ breakAfter: chosen.breakAfter === true ? null : true })}
                  >
                    <Unlink size={14} />
                  </IconButton>
                  <IconButton
                    label="Keep together with the next word"
                    aria-pressed={chosen.breakAfter === false}
                    className={chosen.breakAfter === false ? 'bg-line' : ''}
                    onClick={() => flag({ breakAfter: chosen.breakAfter === false ? null : false })}
                  >
                    <Link2 size={14} />
                  </IconButton>
                  <span className="tabular ml-auto text-xs text-muted">
                    {formatClock(known.words[chosen.index]?.start ?? 0, true)} in the source
                  </span>
                </div>
              </div>
            )}
          </li>
        ))}
      </ol>
      {captions.length > 0 && (
        <div className="sticky -bottom-3 mt-auto flex flex-wrap items-center gap-2 bg-[#12191f] pb-3 pt-2">
          {taps ? (
            <>
              <Button look="lamp" keys="T" onClick={tap}>
                <Hand size={14} aria-hidden />{' '}
                {taps.length < captions.length ? `Caption ${taps.length + 1} begins` : 'All are tapped'}
              </Button>
              <Button onClick={finishTaps}>Keep these times</Button>
              <Button look="quiet" onClick={() => setTaps(null)}>
                Leave them
              </Button>
            </>
          ) : (
            <Button
              title="Play, and press T where each caption should begin"
              onClick={() => {
                setTaps([]);
                player.seek(0);
                player.play();
              }}
            >
              <Hand size={14} aria-hidden /> Tap the times
            </Button>
          )}
          {!taps && <BringText media={media} onDone={() => void spoken.reload(media)} />}
          {!taps && reelAddress && (
            <span className="ml-auto text-xs text-muted">
              as{' '}
              {['srt', 'vtt', 'ass'].map((format) => (
                <FileLink
                  key={format}
                  href={`${reelAddress}/export/${format}`}
                  className="ml-1.5 uppercase underline hover:text-text"
                >
                  {format}
                </FileLink>
              ))}
            </span>
          )}
        </div>
      )}
      {captions.length === 0 && (
        <div className="mt-2">
          <BringText media={media} onDone={() => void spoken.reload(media)} />
        </div>
      )}
    </div>
  );
}

/** A text with times, for the whole recording. */
/** Another text for the whole recording; where one stands already that may not give way unasked, it asks. */
function BringText({ media, onDone }: { media: string; onDone(): void }) {
  const picker = useRef<HTMLInputElement>(null);
  const sender = useFetcher<{ problem: string | null; ask?: ImportQuestion }>();
  const [chosen, setChosen] = useState<{ name: string; text: string } | null>(null);
  const answer = sender.state === 'idle' ? sender.data : undefined;
  const bringIn = (file: { name: string; text: string }, more: Record<string, string> = {}) => {
    setChosen(file);
    void sender.submit({ intent: 'import', ...file, ...more }, { method: 'post', action: `/media/${media}/words` });
  };
  const settled = useEffectEvent(() => {
    if (answer?.ask) return;
    setChosen(null);
    if (answer && !answer.problem) onDone();
  });
  useEffect(() => settled(), [answer]);
  const take = async (file: File | undefined) => {
    if (file) bringIn({ name: file.name, text: await file.text() });
  };
  return (
    <>
      {answer?.problem && <p role="alert">{answer.problem}</p>}
      {answer?.ask && chosen && (
        <ImportAsk
          name={chosen.name}
          ask={answer.ask}
          onAnswer={(language) => (language === null ? setChosen(null) : bringIn(chosen, { anyway: 'true', language }))}
        />
      )}
      <Button title="SRT, WebVTT, ASS or JSON, for the whole recording" onClick={() => picker.current?.click()}>
        <FileInput size={14} aria-hidden /> Bring in a text
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        accept=".srt,.vtt,.ass,.ssa,.json,text/plain"
        aria-label="Text with times"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}

function EditLine({ line, onSave, onCancel }: { line: CaptionLine; onSave(text: string): void; onCancel(): void }) {
  const [text, setText] = useState(lineText(line.words));
  const left = useRef(false);
  return (
    <input
      autoFocus
      aria-label="Correct the caption"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => !left.current && onSave(text.trim())}
      className={`${inputLook} min-w-0 flex-1`}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        else if (event.key === 'Escape') {
          left.current = true;
          onCancel();
        }
      }}
    />
  );
}

/** Where nothing was recognised: what is said is typed, spread over the short, and then tapped into place. */
function TypeIn({ desk, onType }: { desk: ReelDesk; onType(text: string, start: number, end: number): void }) {
  const [text, setText] = useState('');
  const { document: reel } = desk;
  const clips = reel ? mainTrack(reel).items.filter((item) => item.kind === 'clip') : [];
  const put = () => {
    const first = clips[0],
      last = clips.at(-1);
    if (!first || !last || !reel) return;
    onType(
      text,
      framesToSeconds(first.sourceIn, reel.rate) + 0.1,
      framesToSeconds(last.sourceIn + last.frames, reel.rate) - 0.1,
    );
  };
  return (
    <div className="space-y-2">
      <p className="text-muted">
        No words are known here. Have them heard or bring in a text under Moments, Words; or type what should stand on
        the picture, and tap its times afterwards.
      </p>
      <textarea
        aria-label="What should stand on the picture"
        rows={4}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="block w-full rounded-md border border-line bg-ground px-2 py-1"
      />
      <Button disabled={!text.trim()} onClick={put}>
        Put it in
      </Button>
    </div>
  );
}

/** The source's second at a second of the reel. */
export const sourceSecond =
  (desk: ReelDesk) =>
  (seconds: number): number => {
    const segment = desk.segments[segmentAt(desk.segments, seconds)];
    return segment ? segment.sourceSeconds + (seconds - segment.startSeconds) * segment.speed : seconds;
  };

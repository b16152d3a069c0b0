import { counted } from '#core/sentences';
import { endAt, materialNames, partNames, shortParts, type ShortPart } from '#core/shorts';
import { mainTrack } from '#core/reel';
import { formatClock, framesToSeconds } from '#core/time';
import type { ReelDesk } from '../reel/useReelDesk';
import type { ShortSetData } from '#usecases/shorts';
import { colours } from '../drawing/inks';
import { Button } from '../ui/controls';
import type { ShownShort } from './ShortCards';

const partColours: Record<ShortPart, string> = {
  hook: colours.lamp,
  speech: colours.speech,
  faces: colours.faces,
  action: colours.motion,
  reactions: colours.sound,
  whole: colours.text,
  picture: colours.muted,
};

/** Why a short was found, where else it could end, and what it is made of. */
export function WhyShort({ short, set, desk }: { short: ShownShort; set: ShortSetData; desk: ReelDesk }) {
  const most = Math.max(1, ...shortParts.map((part) => short.parts[part]));
  const reel = desk.document;
  const clips = reel ? mainTrack(reel).items.filter((item) => item.kind === 'clip') : [];
  const last = clips.at(-1);
  const end = last && reel ? framesToSeconds(last.sourceIn + last.frames, reel.rate) : 0;
  const endHere = (seconds: number) => {
    const command = reel && endAt(reel, seconds, desk.sources);
    if (command) desk.live.edit(command);
  };
  const parts = shortParts.filter((part) => short.parts[part] >= 0.5).sort((a, b) => short.parts[b] - short.parts[a]);
  return (
    <div className="space-y-3">
      <div>
        {parts.map((part) => (
          <div key={part} className="grid grid-cols-[104px_1fr_28px] items-center gap-x-4 py-[3px]">
            <span>{partNames[part]}</span>
            <span className="block h-1.5 rounded bg-line">
              <span
                className="block h-full rounded"
                style={{ width: `${(short.parts[part] / most) * 100}%`, background: partColours[part] }}
              />
            </span>
            <span className="tabular text-right">{Math.round(short.parts[part])}</span>
          </div>
        ))}
      </div>
      <p className="text-muted">
        {short.reason}.
        {set.because &&
          ` ${set.because.replace(/^[^:]*: /, `Taken for ${materialNames[set.material].toLowerCase()}: `)}`}
      </p>
      <fieldset className="rounded-md bg-raised p-2.5">
        <legend className="sr-only">Where it ends</legend>
        <p className="mb-1.5 text-xs text-muted">It ends</p>
        <ul className="space-y-1">
          {short.endings.map((ending) => {
            const here = Math.abs(ending.end - end) < 0.12;
            return (
              <li key={ending.end}>
                <label
                  className={`flex cursor-pointer items-baseline gap-2 rounded px-1.5 py-0.5 hover:bg-line/60 ${here ? '' : 'text-muted'}`}
                >
                  <input type="radio" name="ending" checked={here} onChange={() => endHere(ending.end)} />
                  <span>{ending.kind === 'sentence' ? <>“{ending.says}”</> : ending.says}</span>
                  <span className="tabular ml-auto text-xs text-muted">{formatClock(ending.end)}</span>
                </label>
              </li>
            );
          })}
        </ul>
        {!short.endings.some((ending) => Math.abs(ending.end - end) < 0.12) && (
          <p className="mt-1 px-1.5 text-xs text-muted">Now at {formatClock(end, true)}, by hand.</p>
        )}
      </fieldset>
      <div className="flex flex-wrap items-center gap-2">
        <Button onClick={() => toPause(desk, set)}>On to the next pause</Button>
        <Button disabled={clips.length < 2 || !desk.clip} onClick={() => desk.actions.takeOut()} command="takeOut">
          Take piece {desk.index + 1} out
        </Button>
        <span className="tabular text-xs text-muted">{counted(clips.length, 'piece')}</span>
      </div>
    </div>
  );
}

/** Lets the chosen piece go on to the end of the sentence that follows, with a breath. */
function toPause({ document: reel, clip, live, sources }: ReelDesk, { words }: ShortSetData): boolean {
  const own =
    clip ??
    (reel
      ? mainTrack(reel)
          .items.filter((item) => item.kind === 'clip')
          .at(-1)
      : null);
  if (!reel || !own) return false;
  const end = framesToSeconds(own.sourceIn + own.frames, reel.rate);
  const from = words.findIndex((word) => word.end > end + 0.1);
  const at = words.findIndex(
    (word, index) => index >= from && from >= 0 && (words[index + 1]?.start ?? Infinity) - word.end >= 0.35,
  );
  if (at < 0) return false;
  const target = words[at]!.end + Math.min(0.4, ((words[at + 1]?.start ?? Infinity) - words[at]!.end) * 0.6);
  const frames = Math.round(((target - end) * reel.rate.num) / reel.rate.den);
  const source = sources.get(own.media);
  return frames > 0 && source
    ? live.edit({
        type: 'trim',
        clip: own.id,
        edge: 'out',
        frames: Math.min(
          frames,
          Math.floor((source.durationSeconds * reel.rate.num) / reel.rate.den - own.sourceIn - own.frames),
        ),
      })
    : false;
}

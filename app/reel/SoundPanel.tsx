import { Lock, LockOpen, Volume2, VolumeX } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { runsOf } from '#core/readings';
import {
  endWithMusic,
  fitReelToMusic,
  loudnessTargets,
  musicDefaults,
  quietest,
  usualRise,
  usualSink,
  type Fitted,
  type GainPoint,
  type Music,
} from '#core/reel';
import { formatClock } from '#core/time';
import { colours } from '../drawing/drawLine';
import type { Item } from '#usecases/projects';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';

const targetNames: Record<number, string> = {
  [-23]: 'broadcast (EBU R 128)',
  [-16]: 'speech on the web',
  [-14]: 'music on the web',
};

/** Music under the reel, how it gives way to speech, and how loud the finished file is. */
export function SoundPanel({ desk, items }: { desk: ReelDesk; items: Item[] }) {
  const { document, live } = desk;
  const songs = items.filter((item) => item.probe?.kind === 'sound' && !item.problem);
  if (!document) return null;
  const { music } = document;
  const set = (change: Partial<Music>) => music && live.edit({ type: 'music', music: { ...music, ...change } });
  const choose = (id: string) => {
    const song = songs.find((item) => item.id === id);
    live.edit({
      type: 'music',
      music: song ? { ...musicDefaults, ...music, media: song.id, name: song.name, startSeconds: 0 } : null,
    });
  };
  const beats = desk.musicBeats;
  const fit = () => {
    const runs = (kind: 'speech' | 'scene') => (media: string) =>
      runsOf(desk.readings?.find((each) => each.id === media)?.runs ?? [], kind);
    const fitted =
      beats &&
      fitReelToMusic(document, { beats: beats.beats, durationSeconds: length }, desk.sources, {
        spokenIn: runs('speech'),
        shotsIn: runs('scene'),
      });
    if (!fitted) return void toast('The reel is as long as the music, and every cut lies on a beat already.');
    live.edit(fitted.command);
    toast(fittedWords(fitted));
  };
  const length = songs.find((item) => item.id === music?.media)?.probe?.durationSeconds ?? 0;
  const endReel = (bars?: readonly number[]) => {
    const command = endWithMusic(document, length, bars);
    if (command) live.edit(command);
  };
  return (
    <div>
      <label className="flex items-center justify-between gap-3">
        Music
        <select
          className={`${inputLook} w-60`}
          value={music?.media ?? ''}
          onChange={(event) => choose(event.target.value)}
        >
          <option value="">none</option>
          {songs.map((song) => (
            <option key={song.id} value={song.id}>
              {song.name}, {formatClock(song.probe!.durationSeconds)}
            </option>
          ))}
          {music && !songs.some((song) => song.id === music.media) && (
            <option value={music.media}>{music.name}, missing</option>
          )}
        </select>
      </label>
      {songs.length === 0 && (
        <p className="mt-1 text-xs text-muted">Bring in music on the Footage screen and it can be chosen here.</p>
      )}
      {music && (
        <>
          <Slider
            label="Level"
            colour={colours.sound}
            value={music.levelDb}
            min={-40}
            max={6}
            step={0.5}
            shown={(db) => `${db} dB`}
            onRest={(levelDb) => set({ levelDb })}
          />
          <Slider
            label="Under speech"
            colour={colours.speech}
            value={music.duckDb}
            min={0}
            max={30}
            step={1}
            shown={(db) => (db ? `−${db} dB` : 'stays')}
            hint="The music sinks before the first word and comes back after the last"
            onRest={(duckDb) => set({ duckDb })}
          />
          {music.duckDb > 0 && (
            <Slider
              label="Sinks within"
              colour={colours.speech}
              value={music.sinkSeconds ?? usualSink}
              min={0.1}
              max={3}
              step={0.1}
              shown={(seconds) => `${seconds} s`}
              hint="Before the first word"
              onRest={(sinkSeconds) => set({ sinkSeconds })}
            />
          )}
          {music.duckDb > 0 && (
            <Slider
              label="Back within"
              colour={colours.speech}
              value={music.riseSeconds ?? usualRise}
              min={0.1}
              max={5}
              step={0.1}
              shown={(seconds) => `${seconds} s`}
              hint="After the last word"
              onRest={(riseSeconds) => set({ riseSeconds })}
            />
          )}
          <Slider
            label="Begins at"
            colour={colours.muted}
            value={Math.min(music.startSeconds, length)}
            max={Math.max(0, Math.floor(length) - 1)}
            step={0.5}
            shown={(seconds) => formatClock(seconds, true)}
            hint="Where in the music the reel begins"
            onRest={(startSeconds) => set({ startSeconds })}
          />
          <Slider
            label="Comes in over"
            colour={colours.muted}
            value={music.fadeInSeconds}
            max={10}
            step={0.5}
            shown={(seconds) => `${seconds} s`}
            onRest={(fadeInSeconds) => set({ fadeInSeconds })}
          />
          <Slider
            label="Goes out over"
            colour={colours.muted}
            value={music.fadeOutSeconds}
            max={15}
            step={0.5}
            shown={(seconds) => `${seconds} s`}
            onRest={(fadeOutSeconds) => set({ fadeOutSeconds })}
          />
          <Curve curve={desk.plan.music?.curve ?? []} total={desk.total} here={desk.player.time} />
          <p className="text-xs text-muted">
            {length > 0 && length - music.startSeconds < desk.total
              ? `The music is shorter than the reel and begins anew at ${formatClock(length - music.startSeconds)}.`
              : 'The music is long enough.'}
          </p>
          {length > 0 && length - music.startSeconds < desk.total && (
            <Button className="mt-1.5 !h-7 !px-2" onClick={() => endReel()}>
              End the reel with the music
            </Button>
          )}
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {beats && (
              <Button
                className="!h-7 !px-2"
                title="Pieces get longer, or go, until the reel is as long as the music; then every cut is rolled to the nearest beat where no word is cut"
                onClick={fit}
              >
                Fit the reel to the music
              </Button>
            )}
            {beats && beats.bars.length > 1 && (
              <Button
                className="!h-7 !px-2"
                title="With the last bar that the reel reaches"
                onClick={() => endReel(beats.bars)}
              >
                End it on a bar
              </Button>
            )}
          </div>
          {!beats && (
            <p className="mt-1 text-xs text-muted">Its beats are being found; then cuts can be laid on them.</p>
          )}
        </>
      )}
      <label className="mt-4 flex items-center justify-between gap-3">
        Loudness of the file
        <select
          className={`${inputLook} w-60`}
          value={document.loudnessLufs ?? ''}
          onChange={(event) =>
            live.edit({ type: 'loudness', lufs: event.target.value ? Number(event.target.value) : null })
          }
        >
          <option value="">as it comes</option>
          {loudnessTargets.map((target) => (
            <option key={target} value={target}>
              {target} LUFS, {targetNames[target]}
            </option>
          ))}
        </select>
      </label>
      <p className="mt-1 text-xs text-muted">
        Peaks stay under −1 dBTP; what the finished file measures stands in Outputs.
      </p>
      <h2 className="mb-1 mt-4 border-t border-line pt-3 font-semibold">Tracks</h2>
      {document.tracks.map((track, index) => (
        <div key={index} className="flex items-center gap-1">
          <div className="flex-1">
            <Slider
              label={index === 0 ? 'Main' : track.name}
              colour={colours.sound}
              value={track.levelDb ?? 0}
              min={-40}
              max={12}
              step={0.5}
              shown={(db) =>
                track.kind === 'picture' && index > 0
                  ? 'no sound'
                  : track.muted
                    ? 'muted'
                    : `${db > 0 ? '+' : ''}${db} dB`
              }
              onRest={(levelDb) => live.edit({ type: 'track', track: index, levelDb })}
            />
          </div>
          <IconButton
            label={track.muted ? `Unmute ${track.name}` : `Mute ${track.name}`}
            aria-pressed={track.muted ?? false}
            disabled={track.kind === 'picture' && index > 0}
            onClick={() => live.edit({ type: 'track', track: index, muted: !track.muted })}
          >
            {track.muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
          </IconButton>
          <IconButton
            label={track.locked ? `Unlock ${track.name}` : `Lock ${track.name}`}
            aria-pressed={track.locked ?? false}
            onClick={() => live.edit({ type: 'track', track: index, locked: !track.locked })}
          >
            {track.locked ? <Lock size={15} /> : <LockOpen size={15} />}
          </IconButton>
        </div>
      ))}
      <p className="mt-1 text-xs text-muted">A locked track cannot be changed, and does not move when others do.</p>
    </div>
  );
}

/** What was done to fit a reel to its music, and what could not be done. */
function fittedWords({ lengthened, shortened, moved, stayed, shortSeconds }: Fitted): string {
  const pieces = (count: number) => `${count} ${count === 1 ? 'piece' : 'pieces'}`;
  const done = [
    ...(lengthened ? [`${pieces(lengthened)} made longer`] : []),
    ...(shortened ? [`${pieces(shortened)} beyond the end of the music taken out or trimmed`] : []),
    ...(moved ? [`${moved} ${moved === 1 ? 'cut' : 'cuts'} moved onto beats`] : []),
    ...(stayed ? [`${stayed} left, where a word would be cut or the footage ends`] : []),
  ].join(', ');
  const rest =
    shortSeconds > 0.5
      ? ` The music still lasts ${formatClock(shortSeconds)} longer: the pieces have no more to show. Add some.`
      : ' The reel ends with the music.';
  return `${done ? `${done[0]!.toUpperCase()}${done.slice(1)}.` : ''}${rest}`.trim();
}

/** The level of the music all along the reel, with the playhead. */
function Curve({ curve, total, here }: { curve: readonly GainPoint[]; total: number; here: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const width = element.clientWidth;
    element.width = width * 2;
    element.height = 104;
    context.setTransform(2, 0, 0, 2, 0, 0);
    context.fillStyle = colours.sound;
    context.globalAlpha = 0.55;
    context.beginPath();
    context.moveTo(0, 52);
    for (const point of curve)
      context.lineTo(
        (point.seconds / Math.max(0.1, total)) * width,
        52 - 50 * Math.max(0, (point.db - quietest) / (6 - quietest)),
      );
    context.lineTo(width, 52);
    context.fill();
    context.globalAlpha = 1;
    context.fillStyle = colours.text;
    context.fillRect((here / Math.max(0.1, total)) * width, 0, 1, 52);
  }, [curve, total, here]);
  return (
    <canvas
      ref={canvas}
      className="my-2 h-[52px] w-full rounded bg-raised"
      role="img"
      aria-label="Level of the music along the reel"
    />
  );
}

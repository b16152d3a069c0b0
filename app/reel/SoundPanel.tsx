import { Lock, LockOpen, Volume2, VolumeX } from 'lucide-react';
import { loudnessTargets, musicDefaults, type Reel } from '#core/reel';
import { formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { colours } from '../drawing/inks';
import { songsOf } from '../music/songsOf';
import { IconButton, inputLook, Slider } from '../ui/controls';
import { MusicPart } from './MusicPart';
import type { ReelDesk } from './useReelDesk';

const targetNames: Record<number, string> = {
  [-23]: 'broadcast (EBU R 128)',
  [-16]: 'speech on the web',
  [-14]: 'music on the web',
};

/** Music under the reel, how it gives way to speech, and how loud the finished file is. */
export function SoundPanel({ desk, items }: { desk: ReelDesk; items: Item[] }) {
  const { document, live } = desk;
  if (!document) return null;
  const { music } = document;
  const songs = songsOf(items, music?.media ?? null);
  const choose = (id: string) => {
    const song = songs.find((item) => item.id === id);
    live.edit({
      type: 'music',
      music: song ? { ...musicDefaults, ...music, media: song.id, name: song.name, startSeconds: 0 } : null,
    });
  };
  const length = songs.find((item) => item.id === music?.media)?.probe?.durationSeconds ?? 0;
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
      {music && <MusicPart desk={desk} document={document} music={music} length={length} />}
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
        <TrackRow key={index} track={track} index={index} live={live} />
      ))}
      <p className="mt-1 text-xs text-muted">A locked track cannot be changed, and does not move when others do.</p>
    </div>
  );
}

interface TrackRowProps {
  track: Reel['tracks'][number];
  index: number;
  live: ReelDesk['live'];
}

/** How loud a track is, whether it is heard, and whether it may be changed. */
function TrackRow({ track, index, live }: TrackRowProps) {
  const isSilent = track.kind === 'picture' && index > 0;
  const level = (db: number) => (track.muted ? 'muted' : `${db > 0 ? '+' : ''}${db} dB`);
  return (
    <div className="flex items-center gap-1">
      <div className="flex-1">
        <Slider
          label={index === 0 ? 'Main' : track.name}
          colour={colours.sound}
          value={track.levelDb ?? 0}
          min={-40}
          max={12}
          step={0.5}
          shown={(db) => (isSilent ? 'no sound' : level(db))}
          onRest={(levelDb) => live.edit({ type: 'track', track: index, levelDb })}
        />
      </div>
      <IconButton
        label={track.muted ? `Unmute ${track.name}` : `Mute ${track.name}`}
        aria-pressed={track.muted ?? false}
        disabled={isSilent}
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
  );
}

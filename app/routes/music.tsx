import { Music as MusicIcon, Pause, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useOutletContext } from 'react-router';
import { formatClock } from '#core/time';
import { colours } from '../page/drawLine';
import { useReadings } from '../page/useReadings';
import { IconButton } from '../ui/controls';
import type { Item, ProjectData } from './project';

/** Music and sound recordings of the project, with their waveforms. */
export default function Music() {
  const { items } = useOutletContext<ProjectData>();
  const sounds = items.filter((item) => item.probe?.kind === 'sound' && !item.problem);
  if (sounds.length === 0)
    return (
      <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
        <MusicIcon size={28} className="text-muted" aria-hidden />
        <h1 className="text-base font-semibold">No music yet</h1>
        <p className="max-w-sm text-muted">Bring in music or a sound recording on the Footage screen; its waveform and loudness show here.</p>
        <Link to="../footage" relative="path" className="mt-2 text-lamp underline">To the footage</Link>
      </main>
    );
  return (
    <main className="flex-1 overflow-y-auto px-4 py-3">
      <h1 className="mb-2 text-sm font-semibold">Music and sound</h1>
      {sounds.map((item) => <Sound key={item.id} item={item} />)}
    </main>
  );
}

function Sound({ item }: { item: Item }) {
  const reading = useReadings([item.id])?.[0] ?? null;
  const [playing, setPlaying] = useState(false);
  const [time, setTime] = useState(0);
  const canvas = useRef<HTMLCanvasElement>(null);
  const audio = useRef<HTMLAudioElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context || !reading) return;
    element.width = element.clientWidth * 2;
    element.height = 128;
    const { wave } = reading.traces;
    const played = (time / reading.durationSeconds) * element.width;
    for (let x = 0; x < element.width; x += 3) {
      let peak = 0;
      const from = Math.floor((x / element.width) * wave.length);
      for (let index = from; index <= Math.floor(((x + 3) / element.width) * wave.length) && index < wave.length; index++) peak = Math.max(peak, wave[index]!);
      context.fillStyle = x < played ? colours.sound : '#7b7265';
      context.fillRect(x, 64 - peak * 60, 2, Math.max(2, peak * 120));
    }
  }, [reading, time]);
  const length = item.probe!.durationSeconds;
  const toggle = () => (playing ? audio.current?.pause() : void audio.current?.play().catch(() => undefined));
  const seek = (share: number) => { if (audio.current) audio.current.currentTime = share * length; };
  return (
    <section className="mb-3 rounded-md border border-line bg-raised p-3" aria-label={item.name}>
      <div className="flex items-center gap-3">
        <IconButton label={playing ? `Pause ${item.name}` : `Play ${item.name}`} onClick={toggle}>{playing ? <Pause size={16} /> : <Play size={16} />}</IconButton>
        <h2 className="font-semibold">{item.name}</h2>
        <span className="tabular ml-auto text-muted">{formatClock(time, true)} of {formatClock(length)}{typeof item.loudness?.integratedLufs === 'number' && ` · ${item.loudness.integratedLufs.toFixed(1)} LUFS`}</span>
      </div>
      <div role="slider" tabIndex={0} aria-label={`Place in ${item.name}`} aria-valuemin={0} aria-valuemax={Math.round(length)} aria-valuenow={Math.round(time)} aria-valuetext={formatClock(time)} className="mt-2 cursor-pointer"
        onClick={(event) => seek((event.clientX - event.currentTarget.getBoundingClientRect().left) / event.currentTarget.clientWidth)}
        onKeyDown={(event) => { const step = { ArrowLeft: -5, ArrowRight: 5 }[event.key]; if (step) seek(Math.min(1, Math.max(0, (time + step) / length))); else if (event.key === ' ') { event.preventDefault(); toggle(); } }}>
        <canvas ref={canvas} className="block h-16 w-full" aria-hidden />
      </div>
      <audio ref={audio} src={`/media/${item.id}`} preload="metadata" onTimeUpdate={(event) => setTime(event.currentTarget.currentTime)} onPlay={() => setPlaying(true)} onPause={() => setPlaying(false)} />
    </section>
  );
}

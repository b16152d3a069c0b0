import { useEffect, useRef } from 'react';
import { beatBefore, beginsBar, type BeatGrid } from '#core/sound';

/** Clicks are put on the clock of the sound so long before they are due, in seconds. */
const aheadSeconds = 0.15;

/** A click on every beat while the music plays, a higher one on the first of a bar: to hear whether the beats sit. */
export function useClicks(on: boolean, playing: boolean, grid: BeatGrid, musicSeconds: () => number | null): void {
  const context = useRef<AudioContext | null>(null);
  useEffect(() => {
    if (!on || !playing) return;
    const own = (context.current ??= new AudioContext());
    void own.resume();
    let put = -1;
    const timer = setInterval(() => {
      const now = musicSeconds();
      if (now === null) return;
      for (
        let index = Math.max(0, beatBefore(grid, now));
        index < grid.beats.length && grid.beats[index]! < now + aheadSeconds;
        index++
      ) {
        const beat = grid.beats[index]!;
        if (beat < now || index <= put) continue;
        put = index;
        const at = own.currentTime + beat - now;
        const tone = own.createOscillator(),
          gain = own.createGain();
        tone.frequency.value = beginsBar(grid, index) ? 1760 : 1175;
        gain.gain.setValueAtTime(0.35, at);
        gain.gain.exponentialRampToValueAtTime(0.001, at + 0.04);
        tone.connect(gain).connect(own.destination);
        tone.start(at);
        tone.stop(at + 0.05);
      }
      // Sought back: what lies ahead is due again.
      if (put >= 0 && grid.beats[put]! > now + 1) put = -1;
    }, 40);
    return () => clearInterval(timer);
  }, [on, playing, grid, musicSeconds]);
  useEffect(() => () => void context.current?.close(), []);
}

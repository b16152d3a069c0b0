import type { Aim } from '#usecases/beginnings';
import boats from './pictures/boats.jpg';
import captain from './pictures/captain.jpg';
import crowd from './pictures/crowd.jpg';
import laugh from './pictures/laugh.jpg';
import pier from './pictures/pier.jpg';
import pond from './pictures/pond.jpg';

/** A picture of what comes of it, from the demo. */
export function DoorPicture({ aim }: { aim: Aim }) {
  const Picture = { reel: ReelPicture, shorts: ShortsPicture, montage: MontagePicture }[aim];
  return (
    <span className="block h-[132px] w-full bg-black p-3" aria-hidden>
      <Picture />
    </span>
  );
}

const cover = (source: string) => ({ backgroundImage: `url(${source})` });

/** Lines of a page; what is lit goes into the reel. */
function ReelPicture() {
  const lines = [
    [
      [pond, true],
      [pier, false],
      [captain, true],
      [crowd, false],
    ],
    [
      [crowd, false],
      [boats, true],
      [pond, false],
      [laugh, true],
    ],
  ] as const;
  return (
    <span className="flex h-full flex-col justify-between">
      {lines.map((line, index) => (
        <span key={index} className="grid grid-cols-4 gap-0.5">
          {line.map(([source, lit], place) => (
            <span
              key={place}
              className={lit ? 'border-b-2 border-lampline' : 'border-b-2 border-transparent opacity-30'}
            >
              <span className="block h-[48px] bg-cover bg-center" style={cover(source)} />
            </span>
          ))}
        </span>
      ))}
    </span>
  );
}

/** Upright pictures with a line of speech. */
function ShortsPicture() {
  return (
    <span className="flex h-full justify-center gap-3">
      {[captain, laugh, crowd].map((source) => (
        <span
          key={source}
          className="relative block w-[61px] overflow-hidden rounded bg-cover bg-center"
          style={cover(source)}
        >
          <span className="absolute inset-x-1.5 bottom-3 flex flex-wrap justify-center gap-[3px]">
            {[14, 20, 9, 16].map((width, word) => (
              <span
                key={word}
                className={`h-[3px] rounded-full ${word === 1 ? 'bg-lamp' : 'bg-text'}`}
                style={{ width }}
              />
            ))}
          </span>
        </span>
      ))}
    </span>
  );
}

/** Pictures between beats, over the sound they are cut to. */
function MontagePicture() {
  const cuts = [
    [boats, 22],
    [laugh, 11],
    [pier, 11],
    [captain, 22],
    [pond, 6],
    [crowd, 6],
    [laugh, 22],
  ] as const;
  const bars = Array.from({ length: 64 }, (_, bar) => 4 + Math.abs(Math.sin(bar * 0.9) * Math.cos(bar * 0.23)) * 26);
  return (
    <span className="flex h-full flex-col gap-2">
      <span className="flex h-[60px] gap-0.5">
        {cuts.map(([source, width], place) => (
          <span key={place} className="bg-cover bg-center" style={{ ...cover(source), width: `${width}%` }} />
        ))}
      </span>
      <svg viewBox="0 0 256 40" preserveAspectRatio="none" className="min-h-0 w-full flex-1">
        {bars.map((height, bar) => (
          <rect key={bar} x={bar * 4} y={20 - height / 2} width="2.4" height={height} fill="#d9c7a3" opacity=".75" />
        ))}
        {Array.from({ length: 17 }, (_, beat) => (
          <rect key={beat} x={beat * 16} y="36" width="1" height={beat % 4 ? 2.5 : 4} fill="#9fabb2" />
        ))}
      </svg>
    </span>
  );
}

import { clearOfPlayers } from '#core/captions';
import { safeAreas } from '#core/reel';

/** Over a picture: what phone players cover of an upright one, and how far graphics and action may go in others. */
export function SafeAreas({ size }: { size: { width: number; height: number } }) {
  if (size.height > size.width)
    return (
      <>
        <span
          className="pointer-events-none absolute inset-x-0 top-0 border-b border-dashed border-text/60 bg-black/40"
          style={{ height: `${clearOfPlayers.top * 100}%` }}
        />
        <span
          className="pointer-events-none absolute inset-x-0 bottom-0 border-t border-dashed border-text/60 bg-black/40"
          style={{ height: `${(1 - clearOfPlayers.bottom) * 100}%` }}
        />
      </>
    );
  return (
    <>
      {Object.values(safeAreas).map((edge) => (
        <span
          key={edge}
          className="pointer-events-none absolute border border-dashed border-text/60"
          style={{ left: `${edge * 100}%`, right: `${edge * 100}%`, top: `${edge * 100}%`, bottom: `${edge * 100}%` }}
        />
      ))}
    </>
  );
}

/** The same over a picture that lies whole in the middle of a frame. */
export const AreasOver = ({ size }: { size: { width: number; height: number } }) => (
  <div
    className="pointer-events-none absolute inset-0 m-auto"
    style={{
      aspectRatio: `${size.width} / ${size.height}`,
      ...(size.width / size.height >= 16 / 9 ? { width: '100%' } : { height: '100%' }),
    }}
  >
    <SafeAreas size={size} />
  </div>
);

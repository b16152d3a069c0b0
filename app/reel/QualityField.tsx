import { qualities, type Quality } from '#core/reel';
import { inputLook } from '../ui/controls';

const qualityNames: Record<Quality, string> = { draft: 'draft, quick', good: 'good', best: 'best, slow' };

/** How carefully a render is encoded. */
export function QualityField({ quality, onQuality }: { quality: Quality; onQuality(quality: Quality): void }) {
  return (
    <label className="flex items-center justify-between">
      Quality
      <select
        className={`${inputLook} !h-7 w-56`}
        value={quality}
        onChange={(event) => onQuality(event.target.value as Quality)}
      >
        {qualities.map((each) => (
          <option key={each} value={each}>
            {qualityNames[each]}
          </option>
        ))}
      </select>
    </label>
  );
}

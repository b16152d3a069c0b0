import type { Logo } from '#core/reel';
import type { Item } from '#usecases/projects';
import { inputLook, Slider } from '../ui/controls';
import { formRow } from './formRow';

const corners: Logo['corner'][] = ['top left', 'top right', 'bottom left', 'bottom right'];
const usual: Omit<Logo, 'media'> = { corner: 'top right', size: 0.16, opacity: 0.9 };

interface LogoPartProps {
  logo: Logo | null;
  photos: readonly Item[];
  onChange(logo: Logo | null): void;
}

/** A photo that stands in a corner all along. */
export function LogoPart({ logo, photos, onChange }: LogoPartProps) {
  return (
    <>
      <label className={formRow}>
        Logo
        <select
          className={inputLook}
          value={logo?.media ?? ''}
          onChange={(event) => onChange(event.target.value ? { ...usual, ...logo, media: event.target.value } : null)}
        >
          <option value="">none</option>
          {photos.map((photo) => (
            <option key={photo.id} value={photo.id}>
              {photo.name}
            </option>
          ))}
        </select>
      </label>
      {logo && (
        <>
          <label className={`${formRow} mt-1.5`}>
            Stands
            <select
              className={inputLook}
              value={logo.corner}
              onChange={(event) => onChange({ ...logo, corner: event.target.value as Logo['corner'] })}
            >
              {corners.map((corner) => (
                <option key={corner}>{corner}</option>
              ))}
            </select>
          </label>
          <Slider
            label="Size"
            value={logo.size}
            min={0.05}
            max={0.5}
            step={0.01}
            colour="#9fabb2"
            shown={(value) => `${Math.round(value * 100)} %`}
            onRest={(size) => onChange({ ...logo, size })}
          />
        </>
      )}
    </>
  );
}

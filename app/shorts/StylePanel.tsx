import { themes } from '#core/reel';
import type { ShortSetData } from '#usecases/shorts';
import type { ReelDesk } from '../reel/useReelDesk';
import { inputLook } from '../ui/controls';
import { CaptionStylePart } from './CaptionStylePart';
import { formRow } from './formRow';
import { HouseStylesPart } from './HouseStylesPart';
import { LogoPart } from './LogoPart';
import { useHouseStyles } from './useHouseStyles';

interface StylePanelProps {
  desk: ReelDesk;
  styles: ShortSetData['styles'];
  projectId: string;
}

/** How captions look, the logo, and house styles that set all of it together. */
export function StylePanel({ desk, styles, projectId }: StylePanelProps) {
  const { document: reel, live, items } = desk;
  const houseStyles = useHouseStyles(desk, projectId);
  if (!reel) return null;
  return (
    <div className="space-y-2.5">
      {houseStyles.problem && (
        <p role="alert" className="rounded-md bg-raised px-3 py-2 text-shake">
          {houseStyles.problem}
        </p>
      )}
      <CaptionStylePart
        captions={reel.captions ?? null}
        texts={desk.texts}
        onChange={(style) => live.edit({ type: 'captions', style })}
      />
      <div className="border-t border-line pt-2.5">
        <LogoPart
          logo={reel.logo ?? null}
          photos={items.filter((item) => item.probe?.kind === 'photo')}
          onChange={(logo) => live.edit({ type: 'logo', logo })}
        />
        <label className={`${formRow} mt-1.5`}>
          Titles
          <select
            className={inputLook}
            value={reel.theme ?? ''}
            onChange={(event) => live.edit({ type: 'theme', theme: event.target.value || null })}
          >
            <option value="">plain</option>
            {themes.map((theme) => (
              <option key={theme.name}>{theme.name}</option>
            ))}
          </select>
        </label>
        <p className="mt-1 text-xs text-muted">
          Opening, name strip and end card are set in the reel, under Titles; a house style takes them along.
        </p>
      </div>
      <HouseStylesPart
        styles={styles}
        onDress={houseStyles.dress}
        onKeep={houseStyles.keep}
        onForget={houseStyles.forget}
      />
    </div>
  );
}

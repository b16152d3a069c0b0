import { Save, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { defaultVariety, ingredientNames, readyMixes, type Recipe, type SuggestedLimit } from '#core/moments';
import { listOf } from '#core/sentences';
import type { OwnRecipe } from '#usecases/moments';
import { Button, IconButton, inputLook, Slider } from '../../ui/controls';
import type { Learned, PickSettings } from '../../workers/protocol';
import { colours } from '../../drawing/inks';
import type { Tastes } from '../model/useTastes';
import { LearningPart, type LearningChange } from './LearningPart';
import { ingredientLooks } from './WhyPanel';

interface MixPanelProps {
  settings: PickSettings;
  photoSeconds: number;
  photos: boolean;
  recipes: OwnRecipe[];
  learned: Learned | null;
  tastes: Tastes;
  learning: boolean;
  forgotten: number;
  onChange(settings: PickSettings, join?: string): void;
  onPhotoSeconds(seconds: number): void;
  onSaveRecipe(name: string): void;
  onRemoveRecipe(recipe: OwnRecipe): void;
  /** Puts the limits where the footage has gaps, and says where. */
  onSuggestLimits(): SuggestedLimit[];
  onLearning(change: LearningChange): void;
}

/** The same numbers, whatever their order; a limit that is not there is off. */
const same = (a: object, b: object) =>
  Object.keys({ ...a, ...b }).every(
    (key) => ((a as Record<string, unknown>)[key] || 0) === ((b as Record<string, unknown>)[key] || 0),
  );
const sameMix = (recipe: Recipe, { mix, limits, piece, variety }: PickSettings) =>
  same(recipe.mix, mix) &&
  same(recipe.limits, limits) &&
  same(recipe.piece, piece) &&
  (recipe.variety ?? defaultVariety) === variety;

/** Weights, limits and piece length; every move is followed at once. */
export function MixPanel(props: MixPanelProps) {
  const { settings, photoSeconds, photos, learned, learning, forgotten, onChange } = props;
  const { mix } = settings;
  return (
    <div>
      <Mixes {...props} />
      <h2 className="mt-2 text-xs text-muted">What counts</h2>
      {ingredientNames.map((name) => (
        <Slider
          key={name}
          label={ingredientLooks[name].label}
          colour={ingredientLooks[name].colour}
          value={mix[name]}
          max={100}
          shown={String(mix[name])}
          onChange={(value) => onChange({ ...settings, mix: { ...mix, [name]: value } }, `weight ${name}`)}
        />
      ))}
      <Variety settings={settings} onChange={onChange} />
      <LearningPart
        learned={learned}
        mix={mix}
        tastes={props.tastes}
        on={learning}
        forgotten={forgotten}
        onTake={(proposed) => onChange({ ...settings, mix: proposed })}
        onLearning={props.onLearning}
      />
      <Limits settings={settings} onChange={onChange} onSuggest={props.onSuggestLimits} />
      <PieceLength settings={settings} onChange={onChange} />
      {photos && (
        <Slider
          label="A photo stands"
          colour={colours.muted}
          value={photoSeconds}
          min={1}
          max={15}
          step={0.5}
          shown={`${photoSeconds} s`}
          onChange={props.onPhotoSeconds}
        />
      )}
      <SaveRecipe onSave={props.onSaveRecipe} />
    </div>
  );
}

/** Mixes to begin with, and recipes of one's own. */
function Mixes({ settings, recipes, onChange, onRemoveRecipe }: MixPanelProps) {
  const take = ({ mix, limits, piece, variety = defaultVariety }: Recipe) => onChange({ mix, limits, piece, variety });
  return (
    <>
      <h2 className="text-xs text-muted">Ready mixes</h2>
      <div className="my-1.5 flex flex-wrap gap-1.5">
        {readyMixes.map((ready) => (
          <Button
            key={ready.name}
            className="!h-7 !px-2.5 aria-pressed:border-text"
            title={ready.says}
            aria-pressed={sameMix(ready, settings)}
            onClick={() => take(ready)}
          >
            {ready.name}
          </Button>
        ))}
        {recipes.map((recipe) => (
          <span key={recipe.id} className="inline-flex items-center rounded-md border border-dashed border-line">
            <Button
              look="quiet"
              className="!h-7 !px-2.5 aria-pressed:text-text aria-pressed:underline"
              aria-pressed={sameMix(recipe, settings)}
              onClick={() => take(recipe)}
            >
              {recipe.name}
            </Button>
            <IconButton label={`Delete the recipe ${recipe.name}`} onClick={() => onRemoveRecipe(recipe)}>
              <Trash2 size={13} />
            </IconButton>
          </span>
        ))}
      </div>
    </>
  );
}

type SettingsProps = Pick<MixPanelProps, 'settings' | 'onChange'>;

/** How much a first of its kind counts more than another good one. */
function Variety({ settings, onChange }: SettingsProps) {
  return (
    <>
      <Slider
        label="Variety"
        colour={colours.lamp}
        value={settings.variety}
        max={100}
        shown={String(settings.variety)}
        hint="A first of its kind, scene or file counts more than one more of them"
        onChange={(variety) => onChange({ ...settings, variety }, 'variety')}
      />
      <p className="flex justify-between text-xs text-muted" aria-hidden>
        <span>Only the best</span>
        <span>Something of everything</span>
      </p>
    </>
  );
}

const limitNames: Record<SuggestedLimit['limit'], string> = {
  shake: 'Shake',
  blur: 'Sharpness',
  dark: 'Light',
  contrast: 'Contrast',
  white: 'Pure white',
  plain: 'Structure',
};
/** "Shake at 41 (6 % is over it). No gap between good and bad in sharpness and light: they stay." */
function limitsSaid(found: readonly SuggestedLimit[]): string {
  const set = found.flatMap(({ limit, at, bad }) =>
    at === null
      ? []
      : [
          `${limitNames[limit]} at ${Math.round(at * 1000) / 10} (${Math.max(1, Math.round(bad * 100))} % is ${limit === 'shake' || limit === 'white' ? 'over' : 'under'} it).`,
        ],
  );
  const left = found.flatMap(({ limit, at }) => (at === null ? [limitNames[limit].toLowerCase()] : []));
  if (left.length > 0)
    set.push(`No gap between good and bad in ${listOf(left)}: ${left.length > 1 ? 'they stay' : 'it stays'}.`);
  return set.join(' ');
}

/** Flaws that are not accepted. */
function Limits({ settings, onChange, onSuggest }: SettingsProps & { onSuggest(): SuggestedLimit[] }) {
  const { limits } = settings;
  const [found, setFound] = useState<SuggestedLimit[] | null>(null);
  const setLimit = (change: Partial<PickSettings['limits']>) =>
    onChange({ ...settings, limits: { ...limits, ...change } }, `limit ${Object.keys(change).join()}`);
  const silence = limits.silence ?? 0;
  return (
    <>
      <div className="mt-3 flex items-center justify-between">
        <h2 className="text-xs text-muted">What is shut out</h2>
        <Button className="!h-6 !px-2 text-xs" onClick={() => setFound(onSuggest())}>
          Set the limits for me
        </Button>
      </div>
      {found && (
        <p role="status" className="my-1 text-xs text-muted">
          {limitsSaid(found)}
        </p>
      )}
      <Slider
        label="Shake over"
        colour={colours.shake}
        value={limits.shake}
        max={1}
        step={0.01}
        shown={limits.shake >= 1 ? 'off' : `${Math.round(limits.shake * 100)}`}
        hint="100 is a wander of 2 % of the picture width"
        onChange={(shake) => setLimit({ shake })}
      />
      <Slider
        label="Sharpness under"
        colour={colours.muted}
        value={limits.blur}
        max={0.9}
        step={0.01}
        shown={limits.blur <= 0 ? 'off' : `${Math.round(limits.blur * 100)}`}
        hint="A picture in focus reads 60 to 100"
        onChange={(blur) => setLimit({ blur })}
      />
      <Slider
        label="Light under"
        colour={colours.muted}
        value={limits.dark}
        max={0.8}
        step={0.01}
        shown={limits.dark <= 0 ? 'off' : `${Math.round(limits.dark * 100)}`}
        hint="100 is well lit"
        onChange={(dark) => setLimit({ dark })}
      />
      <Slider
        label="Contrast under"
        colour={colours.muted}
        value={limits.contrast ?? 0}
        max={0.3}
        step={0.005}
        shown={limits.contrast ? `${Math.round(limits.contrast * 1000) / 10}` : 'off'}
        hint="Fog, backlight through a dirty window; most pictures have 12 to 30"
        onChange={(contrast) => setLimit({ contrast })}
      />
      <Slider
        label="Pure white over"
        colour={colours.muted}
        value={limits.white ?? 1}
        max={1}
        step={0.01}
        shown={(limits.white ?? 1) >= 1 ? 'off' : `${Math.round(limits.white! * 100)} %`}
        hint="Overexposed: so much of the picture has nothing left in it"
        onChange={(white) => setLimit({ white })}
      />
      <Slider
        label="Structure under"
        colour={colours.muted}
        value={limits.plain ?? 0}
        max={0.2}
        step={0.005}
        shown={limits.plain ? `${Math.round(limits.plain * 100 * 10) / 10}` : 'off'}
        hint="Pictures with nothing in them: a covered lens, fog, the ground; faces always count"
        onChange={(plain) => setLimit({ plain })}
      />
      <Slider
        label="Silence over"
        colour={colours.sound}
        value={silence === 0 ? 10.5 : silence}
        min={0.5}
        max={10.5}
        step={0.5}
        shown={silence === 0 ? 'off' : `${silence} s`}
        hint="Silent for longer than this is shut out"
        onChange={(value) => setLimit({ silence: value > 10 ? 0 : value })}
      />
      <Tick label="Frozen picture" on={limits.frozen} onChange={(frozen) => setLimit({ frozen })} />
      <Tick label="Clipped sound" on={limits.clipped ?? false} onChange={(clipped) => setLimit({ clipped })} />
      <Tick label="Wind in the sound" on={limits.wind ?? false} onChange={(wind) => setLimit({ wind })} />
      <Tick label="Whip pans" on={limits.whips ?? false} onChange={(whips) => setLimit({ whips })} />
    </>
  );
}

const Tick = ({ label, on, onChange }: { label: string; on: boolean; onChange(on: boolean): void }) => (
  <label className="flex items-center justify-between py-1.5">
    {label}
    <input
      type="checkbox"
      className="h-4 w-4 accent-muted"
      checked={on}
      onChange={(event) => onChange(event.target.checked)}
    />
  </label>
);

function PieceLength({ settings, onChange }: SettingsProps) {
  const { piece } = settings;
  const setPiece = (change: Partial<PickSettings['piece']>) => {
    const next = { ...piece, ...change };
    const preferredSeconds = Math.min(Math.max(next.preferredSeconds, next.minSeconds), next.maxSeconds);
    onChange({ ...settings, piece: { ...next, preferredSeconds } }, `piece ${Object.keys(change).join()}`);
  };
  return (
    <>
      <h2 className="mt-3 text-xs text-muted">Length of a piece</h2>
      <Slider
        label="Preferred"
        colour={colours.muted}
        value={piece.preferredSeconds}
        min={1}
        max={30}
        step={0.5}
        shown={`${piece.preferredSeconds} s`}
        onChange={(preferredSeconds) => setPiece({ preferredSeconds })}
      />
      <Slider
        label="At least"
        colour={colours.muted}
        value={piece.minSeconds}
        min={0.5}
        max={10}
        step={0.5}
        shown={`${piece.minSeconds} s`}
        onChange={(minSeconds) => setPiece({ minSeconds, maxSeconds: Math.max(piece.maxSeconds, minSeconds + 1) })}
      />
      <Slider
        label="At most"
        colour={colours.muted}
        value={piece.maxSeconds}
        min={2}
        max={60}
        step={1}
        shown={`${piece.maxSeconds} s`}
        onChange={(maxSeconds) => setPiece({ maxSeconds, minSeconds: Math.min(piece.minSeconds, maxSeconds - 1) })}
      />
    </>
  );
}

function SaveRecipe({ onSave }: { onSave(name: string): void }) {
  const [name, setName] = useState('');
  return (
    <form
      className="mt-3 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim()) return;
        onSave(name.trim());
        setName('');
      }}
    >
      <input
        className={`${inputLook} min-w-0 flex-1`}
        aria-label="Name of the recipe"
        placeholder="Save all of this as a recipe"
        maxLength={60}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={!name.trim()}>
        <Save size={15} aria-hidden /> Save
      </Button>
    </form>
  );
}

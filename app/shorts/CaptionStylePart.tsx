import { decimal } from '#core/sentences';
import { captionDefaults, captionFontNames, captionLooks, type CaptionStyle } from '#core/captions';
import { inputLook, Slider } from '../ui/controls';
import { formRow } from './formRow';

interface CaptionStylePartProps {
  /** Null where a short has no captions. */
  captions: CaptionStyle | null;
  onChange(style: CaptionStyle | null): void;
}
interface PartProps {
  style: CaptionStyle;
  change(next: Partial<CaptionStyle>): void;
}

const colourNames = [
  ['colour', 'Letters'],
  ['lit', 'Spoken word'],
  ['emphasis', 'Important'],
  ['outline', 'Outline'],
] as const;
/** What a plate is when it is first put on: the ground of the screen, not quite opaque. */
const usualPlate = { colour: '#0f1418', opacity: 'cc' };
const grey = '#9fabb2';

/** How captions look: ready-made looks, letters, colours, how they come in. */
export function CaptionStylePart({ captions, onChange }: CaptionStylePartProps) {
  const change = (next: Partial<CaptionStyle>) => captions && onChange({ ...captions, ...next });
  return (
    <>
      <Looks captions={captions} onChange={onChange} />
      {captions && (
        <>
          <Letters style={captions} change={change} />
          <Colours style={captions} change={change} />
          <Manner style={captions} change={change} />
        </>
      )}
    </>
  );
}

function Looks({ captions, onChange }: CaptionStylePartProps) {
  const worn = JSON.stringify(captions);
  return (
    <div className="flex flex-wrap gap-1.5" role="group" aria-label="Looks of captions">
      {captionLooks.map((look) => (
        <button
          key={look.name}
          type="button"
          onClick={() => onChange(look.style)}
          className={`rounded-md border px-2 py-1 ${JSON.stringify(look.style) === worn ? 'border-text' : 'border-line hover:border-muted'}`}
          style={{
            color: look.style.box ? look.style.lit : look.style.colour,
            background: look.style.box?.slice(0, 7) ?? 'transparent',
          }}
        >
          {look.name}
        </button>
      ))}
      <button
        type="button"
        onClick={() => onChange(captions ? null : captionDefaults)}
        className="rounded-md border border-line px-2 py-1 text-muted hover:text-text"
      >
        {captions ? 'No captions' : 'Captions'}
      </button>
    </div>
  );
}

function Letters({ style, change }: PartProps) {
  return (
    <>
      <label className={formRow}>
        Font
        <select
          className={inputLook}
          value={style.font}
          onChange={(event) => change({ font: event.target.value as CaptionStyle['font'] })}
        >
          {captionFontNames.map((font) => (
            <option key={font}>{font}</option>
          ))}
        </select>
      </label>
      <Slider
        label="Size"
        value={style.size}
        min={3}
        max={14}
        step={0.2}
        colour={grey}
        shown={(value) => decimal(value, 1)}
        onRest={(size) => change({ size })}
      />
      <Slider
        label="Height"
        value={1 - style.place}
        min={0.1}
        max={0.9}
        step={0.01}
        colour={grey}
        shown={(value) => `${Math.round(value * 100)} %`}
        hint="From the bottom; under 22 % a phone player covers it"
        onRest={(value) => change({ place: 1 - value })}
      />
      <Slider
        label="Outline"
        value={style.outlineWidth}
        min={0}
        max={20}
        colour={grey}
        shown={(value) => String(value)}
        onRest={(outlineWidth) => change({ outlineWidth })}
      />
      <Slider
        label="Letters"
        value={style.letters}
        min={16}
        max={60}
        colour={grey}
        shown={(value) => String(value)}
        hint="At most, over both rows"
        onRest={(letters) => change({ letters })}
      />
    </>
  );
}

function Colours({ style, change }: PartProps) {
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1.5">
      {colourNames.map(([key, label]) => (
        <label key={key} className="flex items-center gap-1.5">
          <input
            type="color"
            value={style[key].slice(0, 7)}
            onChange={(event) => change({ [key]: event.target.value })}
            className="h-6 w-8 rounded border border-line bg-ground"
          />
          {label}
        </label>
      ))}
      <label className="flex items-center gap-1.5">
        <input
          type="color"
          disabled={!style.box}
          value={(style.box ?? usualPlate.colour).slice(0, 7)}
          onChange={(event) => change({ box: `${event.target.value}${style.box?.slice(7) || usualPlate.opacity}` })}
          className="h-6 w-8 rounded border border-line bg-ground disabled:opacity-40"
        />
        Background
      </label>
    </div>
  );
}

/** On a background or not, in capitals or not, and how they come in. */
function Manner({ style, change }: PartProps) {
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={style.box !== null}
          onChange={(event) => change({ box: event.target.checked ? usualPlate.colour + usualPlate.opacity : null })}
        />{' '}
        On a background
      </label>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={style.upper} onChange={(event) => change({ upper: event.target.checked })} />{' '}
        Capitals
      </label>
      <label className="flex items-center gap-1.5">
        Comes in
        <select
          className={`${inputLook} !h-7`}
          value={style.motion}
          onChange={(event) => change({ motion: event.target.value as CaptionStyle['motion'] })}
        >
          <option value="none">at once</option>
          <option value="fade">softly</option>
          <option value="pop">growing</option>
        </select>
      </label>
    </div>
  );
}

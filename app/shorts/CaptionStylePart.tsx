import {
  captionDefaults,
  captionFontNames,
  captionLooks,
  inLook,
  sameStyle,
  speakerColours,
  type CaptionStyle,
} from '#core/captions';
import { counted, decimal } from '#core/sentences';
import { sameLanguage } from '#core/words';
import type { BesideTexts } from '../reel/useCaptionTexts';
import { languageName } from '../words/OtherTexts';
import { inputLook, Slider } from '../ui/controls';
import { formRow } from './formRow';

interface CaptionStylePartProps {
  /** Null where a short has no captions. */
  captions: CaptionStyle | null;
  texts: BesideTexts;
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
export function CaptionStylePart({ captions, texts, onChange }: CaptionStylePartProps) {
  const change = (next: Partial<CaptionStyle>) => captions && onChange({ ...captions, ...next });
  return (
    <>
      <Looks captions={captions} onChange={onChange} />
      {captions && (
        <>
          <Letters style={captions} change={change} />
          <Colours style={captions} change={change} />
          <Manner style={captions} change={change} />
          <BySpeaker style={captions} texts={texts} onChange={onChange} />
          <SecondLanguage style={captions} texts={texts} onChange={onChange} />
        </>
      )}
    </>
  );
}

function Looks({ captions, onChange }: Omit<CaptionStylePartProps, 'texts'>) {
  return (
    <div className="flex flex-wrap gap-1.5" role="group" aria-label="Looks of captions">
      {captionLooks.map((look) => (
        <button
          key={look.name}
          type="button"
          onClick={() => onChange(inLook(look.style, captions))}
          className={`rounded-md border px-2 py-1 ${captions && sameStyle(inLook(look.style, captions), captions) ? 'border-text' : 'border-line hover:border-muted'}`}
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

interface TextsPartProps {
  style: CaptionStyle;
  texts: BesideTexts;
  onChange(style: CaptionStyle): void;
}

/** At most so many speakers have a colour of their own to be chosen; further ones begin again. */
const mostColours = 6;

/** Letters of another colour for each speaker; the first one's are those of the letters. */
function BySpeaker({ style, texts: { speakers }, onChange }: TextsPartProps) {
  const { speakers: colours, ...same } = style;
  const named = (index: number) => speakers[index] ?? `Speaker ${index + 1}`;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={colours !== undefined}
          disabled={speakers.length < 2 && colours === undefined}
          onChange={(event) => onChange(event.target.checked ? { ...same, speakers: speakerColours(same) } : same)}
        />{' '}
        A colour for each speaker
      </label>
      {colours?.map(
        (colour, index) =>
          index + 1 < Math.min(mostColours, speakers.length) && (
            <label key={index} className="flex items-center gap-1.5">
              <input
                type="color"
                value={colour.slice(0, 7)}
                onChange={(event) => onChange({ ...style, speakers: colours.with(index, event.target.value) })}
                className="h-6 w-8 rounded border border-line bg-ground"
              />
              {named(index + 1)}
            </label>
          ),
      )}
      {speakers.length < 2 && (
        <p className="text-xs text-muted">
          {speakers.length === 0
            ? 'Tell the speakers of the footage apart first: “Speakers”, above its words.'
            : 'Only one speaker is known in the footage.'}
        </p>
      )}
    </div>
  );
}

/** Another text of the same footage below the one that is shown, smaller and unlit. */
function SecondLanguage({ style, texts: { languages, lacking }, onChange }: TextsPartProps) {
  const { second, ...alone } = style;
  const all = [...languages.map(({ tag }) => tag), ...(second ? [second] : [])];
  // A language is one, wherever it is spoken.
  const offered = all.filter((tag, at) => all.findIndex((other) => sameLanguage(other, tag)) === at);
  return (
    <div>
      <label className={formRow}>
        Below, in
        <select
          className={inputLook}
          value={offered.find((tag) => second && sameLanguage(tag, second)) ?? ''}
          disabled={offered.length === 0}
          onChange={(event) => onChange(event.target.value ? { ...alone, second: event.target.value } : alone)}
        >
          <option value="">no second language</option>
          {offered.map((tag) => (
            <option key={tag} value={tag}>
              {languageName(tag)}
            </option>
          ))}
        </select>
      </label>
      {second && lacking > 0 && (
        <p className="mt-1 text-xs text-muted">
          {counted(lacking, 'file')} of this reel {lacking === 1 ? 'has' : 'have'} no other text in{' '}
          {languageName(second)}; bring it in under Words.
        </p>
      )}
      {!second && offered.length === 0 && (
        <p className="mt-1 text-xs text-muted">Bring a text in another language in under Words.</p>
      )}
    </div>
  );
}

import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useRevalidator } from 'react-router';
import { captionDefaults, captionFontNames, captionLooks, type CaptionStyle } from '#core/captions';
import { dressInStyle, themes, type HouseStyle, type Logo } from '#core/reel';
import type { ReelDesk } from '../reel/useReelDesk';
import type { ShortSetData } from '#usecases/shorts';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';

interface StylePanelProps {
  desk: ReelDesk;
  styles: ShortSetData['styles'];
  projectId: string;
}

const colourNames = [
  ['colour', 'Letters'],
  ['lit', 'Spoken word'],
  ['emphasis', 'Important'],
  ['outline', 'Outline'],
] as const;
const corners: Logo['corner'][] = ['top left', 'top right', 'bottom left', 'bottom right'];

/** How captions look, the logo, and house styles that set all of it together. */
export function StylePanel({ desk, styles, projectId }: StylePanelProps) {
  const { document: reel, live, items } = desk;
  const { revalidate } = useRevalidator();
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  if (!reel) return null;
  const style = reel.captions ?? captionDefaults;
  const change = (next: Partial<CaptionStyle>) => live.edit({ type: 'captions', style: { ...style, ...next } });
  const photos = items.filter((item) => item.probe?.kind === 'photo');
  const logo = reel.logo;
  const setLogo = (next: Logo | null) => live.edit({ type: 'logo', logo: next });
  const dress = (house: HouseStyle, title: string) =>
    live.edit(
      dressInStyle(
        reel,
        { ...house, logo: house.logo && photos.some((photo) => photo.id === house.logo!.media) ? house.logo : null },
        title,
        () => crypto.randomUUID(),
      ),
    );
  const cardOf = (kind: 'opening' | 'lower' | 'end') => {
    const title = reel.titles?.find((each) => each.kind === kind);
    return title
      ? {
          text: title.text === reel.name ? '{title}' : title.text,
          sub: title.sub ?? '',
          seconds: Math.max(0.5, Math.round((title.frames * reel.rate.den * 10) / reel.rate.num) / 10),
        }
      : null;
  };
  const send = async (body: object) => {
    const answer = await fetch(`/projects/${projectId}/house-styles`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => null);
    const said = ((await answer?.json().catch(() => null)) ?? {
      problem: 'The server does not answer. Try again in a moment.',
    }) as { problem: string | null };
    setProblem(said.problem);
    if (!said.problem) setName('');
    void revalidate();
  };
  const save = () => {
    const opening = cardOf('opening');
    const document: HouseStyle = {
      captions: style,
      theme: reel.theme ?? null,
      logo: logo ?? null,
      opening: opening && { text: opening.text, seconds: opening.seconds },
      lower: cardOf('lower'),
      end: cardOf('end'),
    };
    void send({ intent: 'save', name, shared, document });
  };
  const row = 'grid grid-cols-[104px_1fr] items-center gap-3';
  return (
    <div className="space-y-2.5">
      {problem && (
        <p role="alert" className="rounded-md bg-raised px-3 py-2 text-shake">
          {problem}
        </p>
      )}
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Looks of captions">
        {captionLooks.map((look) => (
          <button
            key={look.name}
            type="button"
            onClick={() => live.edit({ type: 'captions', style: look.style })}
            className={`rounded-md border px-2 py-1 ${JSON.stringify(look.style) === JSON.stringify(reel.captions) ? 'border-text' : 'border-line hover:border-muted'}`}
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
          onClick={() => live.edit({ type: 'captions', style: reel.captions ? null : captionDefaults })}
          className="rounded-md border border-line px-2 py-1 text-muted hover:text-text"
        >
          {reel.captions ? 'No captions' : 'Captions'}
        </button>
      </div>
      {reel.captions && (
        <>
          <label className={row}>
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
            colour="#9fabb2"
            shown={(value) => value.toFixed(1)}
            onRest={(size) => change({ size })}
          />
          <Slider
            label="Height"
            value={1 - style.place}
            min={0.1}
            max={0.9}
            step={0.01}
            colour="#9fabb2"
            shown={(value) => `${Math.round(value * 100)} %`}
            hint="From the bottom; under 22 % a phone player covers it"
            onRest={(value) => change({ place: 1 - value })}
          />
          <Slider
            label="Outline"
            value={style.outlineWidth}
            min={0}
            max={20}
            colour="#9fabb2"
            shown={(value) => String(value)}
            onRest={(outlineWidth) => change({ outlineWidth })}
          />
          <Slider
            label="Letters"
            value={style.letters}
            min={16}
            max={60}
            colour="#9fabb2"
            shown={(value) => String(value)}
            hint="At most, over both rows"
            onRest={(letters) => change({ letters })}
          />
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
                value={(style.box ?? '#0f1418').slice(0, 7)}
                onChange={(event) => change({ box: `${event.target.value}${style.box?.slice(7) || 'cc'}` })}
                className="h-6 w-8 rounded border border-line bg-ground disabled:opacity-40"
              />
              Plate
            </label>
          </div>
          <div className="flex flex-wrap gap-x-4 gap-y-1">
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={style.box !== null}
                onChange={(event) => change({ box: event.target.checked ? '#0f1418cc' : null })}
              />{' '}
              On a plate
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={style.upper}
                onChange={(event) => change({ upper: event.target.checked })}
              />{' '}
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
        </>
      )}
      <div className="border-t border-line pt-2.5">
        <label className={row}>
          Logo
          <select
            className={inputLook}
            value={logo?.media ?? ''}
            onChange={(event) =>
              setLogo(
                event.target.value
                  ? {
                      media: event.target.value,
                      corner: logo?.corner ?? 'top right',
                      size: logo?.size ?? 0.16,
                      opacity: logo?.opacity ?? 0.9,
                    }
                  : null,
              )
            }
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
            <label className={`${row} mt-1.5`}>
              Stands
              <select
                className={inputLook}
                value={logo.corner}
                onChange={(event) => setLogo({ ...logo, corner: event.target.value as Logo['corner'] })}
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
              onRest={(size) => setLogo({ ...logo, size })}
            />
          </>
        )}
        <label className={`${row} mt-1.5`}>
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
      <div className="border-t border-line pt-2.5">
        <p className="mb-1 font-semibold">House styles</p>
        {styles.length === 0 && (
          <p className="text-xs text-muted">None yet. What this short looks like can be kept as one.</p>
        )}
        <ul>
          {styles.map((house) => (
            <li key={house.id} className="flex items-center gap-2 py-0.5">
              <span className="truncate">{house.name}</span>
              {house.shared && <span className="text-xs text-muted">shared</span>}
              <Button className="ml-auto !h-7 !px-2" onClick={() => dress(house.document, house.name)}>
                Put it on
              </Button>
              {house.own && (
                <IconButton
                  label={`Forget “${house.name}”`}
                  onClick={() => {
                    const asked = `Forget the house style “${house.name}”? This cannot be taken back; reels that wear it keep their looks.`;
                    if (confirm(asked)) void send({ intent: 'delete', id: house.id });
                  }}
                >
                  <Trash2 size={14} />
                </IconButton>
              )}
            </li>
          ))}
        </ul>
        <form
          className="mt-1.5 flex items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            save();
          }}
        >
          <input
            aria-label="Name of the house style"
            placeholder="Keep as…"
            value={name}
            onChange={(event) => setName(event.target.value)}
            className={`${inputLook} min-w-0 flex-1`}
          />
          <label className="flex items-center gap-1 text-xs text-muted" title="Can be chosen in every project">
            <input type="checkbox" checked={shared} onChange={(event) => setShared(event.target.checked)} /> for all
            projects
          </label>
          <Button type="submit" disabled={!name.trim()}>
            Keep
          </Button>
        </form>
      </div>
    </div>
  );
}

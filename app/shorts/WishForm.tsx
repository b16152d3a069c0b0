import { Scissors } from 'lucide-react';
import { useState } from 'react';
import { Form, useNavigation } from 'react-router';
import { lengthRanges, materialNames, materials, shortsDefaults, type ShortsWish } from '#core/shorts';
import { shapes, type Shape } from '#core/reel';
import { formatClock } from '#core/time';
import type { ShortsDocument } from '#usecases/shorts';
import type { Item } from '#usecases/projects';
import { Button, Field, inputLook } from '../ui/controls';

interface WishFormProps {
  items: readonly Item[];
  styles: readonly { id: string; name: string }[];
  problems: Record<string, string>;
  media: string | null;
  before?: ShortsDocument['wish'];
  action?: string;
}

/** "2:05" or "125" as seconds; what is neither stays as it is, so that the server can say so. */
const asSeconds = (text: string): string => {
  const match = /^(?:(\d+):)?(\d+):(\d+(?:\.\d+)?)$/.exec(text.trim());
  return match ? String(Number(match[1] ?? 0) * 3600 + Number(match[2]) * 60 + Number(match[3])) : text.trim();
};

/** What is wished for: how many, how long, of what kind, from where, in which shape. */
export function WishForm({ items, styles, problems, media, before, action }: WishFormProps) {
  const recordings = items.filter((item) => item.probe?.kind === 'video' && !item.problem);
  const longest = [...recordings].sort((a, b) => b.probe!.durationSeconds - a.probe!.durationSeconds)[0];
  const wish: ShortsWish & { shape: Shape; request: string; houseStyle: string | null } = before ?? {
    ...shortsDefaults,
    shape: '9:16',
    request: '',
    houseStyle: null,
  };
  const searching = useNavigation().state !== 'idle';
  if (recordings.length === 0)
    return <p className="text-muted">No film in this project has been read yet. Bring one in under Footage.</p>;
  const checkbox = 'flex items-center gap-2';
  return (
    <Form method="post" action={action} className="space-y-3.5" aria-label="Shorts that are wished for">
      {problems.form && (
        <p role="alert" className="rounded-md bg-raised px-3 py-2 text-shake">
          {problems.form}
        </p>
      )}
      <Field label="Recording" error={problems.media}>
        <select name="media" className={`${inputLook} w-full`} defaultValue={media ?? longest?.id}>
          {recordings.map((item) => (
            <option key={item.id} value={item.id}>
              {item.name} ({formatClock(item.probe!.durationSeconds)})
            </option>
          ))}
        </select>
      </Field>
      <div className="grid grid-cols-[72px_1fr] gap-3">
        <Field label="How many" error={problems.count}>
          <input
            name="count"
            type="number"
            min={1}
            max={20}
            defaultValue={wish.count}
            className={`${inputLook} tabular w-full`}
          />
        </Field>
        <LengthField wish={wish} error={problems.minSeconds ?? problems.maxSeconds} />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Kind of recording">
          <select name="material" className={`${inputLook} w-full`} defaultValue={wish.material ?? ''}>
            <option value="">Any, as it is found</option>
            {materials.map((material) => (
              <option key={material} value={material}>
                {materialNames[material]}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Shape">
          <select name="shape" className={`${inputLook} w-full`} defaultValue={wish.shape}>
            {Object.keys(shapes).map((shape) => (
              <option key={shape}>{shape}</option>
            ))}
          </select>
        </Field>
      </div>
      <Field label="Each is made of">
        <select name="form" className={`${inputLook} w-full`} defaultValue={wish.form}>
          <option value="stretch">one stretch of the recording</option>
          <option value="pieces">several pieces that belong together</option>
        </select>
      </Field>
      <div className="space-y-1.5">
        <label className={checkbox}>
          <input type="checkbox" name="cutPauses" value="true" defaultChecked={wish.cutPauses} /> Cut pauses in which
          nothing happens
        </label>
        <label className={checkbox}>
          <input type="checkbox" name="cutRepeats" value="true" defaultChecked={wish.cutRepeats} /> Cut starts that were
          begun again
        </label>
      </div>
      <RangeField wish={wish} error={problems.from ?? problems.to} />
      <Field label="What to look for, in words (may stay empty)" error={problems.request}>
        <input
          name="request"
          defaultValue={wish.request}
          placeholder="a close face, “sank”, everyone cheering"
          className={`${inputLook} w-full`}
        />
      </Field>
      <Field label="House style">
        <select name="houseStyle" className={`${inputLook} w-full`} defaultValue={wish.houseStyle ?? ''}>
          <option value="">Plain captions</option>
          {styles.map((style) => (
            <option key={style.id} value={style.id}>
              {style.name}
            </option>
          ))}
        </select>
      </Field>
      <Button look="lamp" type="submit" className="w-full" disabled={searching}>
        <Scissors size={15} aria-hidden /> {searching ? 'Looking…' : 'Find shorts'}
      </Button>
    </Form>
  );
}

interface WishFieldProps {
  wish: ShortsWish;
  error: string | undefined;
}

/** How long a short is, as numbers or as one of the usual lengths. */
function LengthField({ wish, error }: WishFieldProps) {
  const [length, setLength] = useState([wish.minSeconds, wish.maxSeconds]);
  const named =
    Object.entries(lengthRanges).find(([, [min, max]]) => min === length[0] && max === length[1])?.[0] ?? '';
  return (
    <Field label="Length, in seconds" error={error}>
      <span className="flex items-center gap-2">
        <input
          name="minSeconds"
          aria-label="Shortest, in seconds"
          type="number"
          step="any"
          value={length[0]}
          onChange={(event) => setLength([Number(event.target.value), length[1]!])}
          className={`${inputLook} tabular w-16`}
        />
        <span className="text-muted">to</span>
        <input
          name="maxSeconds"
          aria-label="Longest, in seconds"
          type="number"
          step="any"
          value={length[1]}
          onChange={(event) => setLength([length[0]!, Number(event.target.value)])}
          className={`${inputLook} tabular w-16`}
        />
        <select
          aria-label="Usual lengths"
          className={`${inputLook} min-w-0 flex-1`}
          value={named}
          onChange={(event) => {
            const chosen = lengthRanges[event.target.value as keyof typeof lengthRanges] as
              readonly [number, number] | undefined;
            if (chosen) setLength([...chosen]);
          }}
        >
          <option value="">own</option>
          {Object.keys(lengthRanges).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </span>
    </Field>
  );
}

/** The stretch of the recording that is looked at. */
function RangeField({ wish, error }: WishFieldProps) {
  const [range, setRange] = useState(
    [wish.range?.start, wish.range && wish.range.end < 1e9 ? wish.range.end : undefined].map((seconds) =>
      seconds === undefined ? '' : formatClock(seconds),
    ),
  );
  return (
    <Field label="Only from … to … (empty: all of it)" error={error}>
      <span className="flex items-center gap-2">
        {['from', 'to'].map((name, index) => (
          <span key={name}>
            <input
              aria-label={`Only ${name}`}
              placeholder={index ? 'end' : '0:00'}
              value={range[index]}
              onChange={(event) => setRange(index ? [range[0]!, event.target.value] : [event.target.value, range[1]!])}
              className={`${inputLook} tabular w-24`}
            />
            <input type="hidden" name={name} value={asSeconds(range[index]!)} />
          </span>
        ))}
      </span>
    </Field>
  );
}

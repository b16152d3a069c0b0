import { counted } from '#core/sentences';
import { ArrowLeft, Eye, EyeOff, Scissors, Users } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link, useFetcher, useOutletContext } from 'react-router';
import { formatClock } from '#core/time';
import { setPerson, showPeople } from '#usecases/inThreads';
import type { Person } from '#usecases/people';
import type { ProjectData } from '#usecases/projects';
import { FaceCrop } from '../drawing/FaceCrop';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { Movable } from '../hands/Movable';
import { useLandingRoom } from '../hands/useLandingRoom';
import { Button, IconButton, inputLook } from '../ui/controls';
import type { Route } from './+types/people';
import { playedAddress } from '../player/playedAddress';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showPeople(params.projectId));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await setPerson(params.projectId, await formOf(request));
  return changed.ok ? succeeded() : failed(changed);
}

/** Everybody in the footage: who, how long; joined by dragging one onto another. */
export default function People({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const fetcher = useFetcher<{ problem: string | null }>();
  const [open, setOpen] = useState<string | null>(null);
  const room = useRef<HTMLElement>(null);
  useLandingRoom(room, 'person');
  const { people } = loaderData;
  const send = (values: Record<string, string | string[]>) => {
    const form = new FormData();
    for (const [key, value] of Object.entries(values)) for (const each of [value].flat()) form.append(key, each);
    void fetcher.submit(form, { method: 'post' });
  };
  const shown = [...people.filter((person) => !person.hidden), ...people.filter((person) => person.hidden)];
  const chosen = people.find((person) => person.id === open) ?? null;
  const addressOf = (id: string) => playedAddress(items.find((item) => item.id === id) ?? { id, parameters: '' });
  const kindOf = (media: string) => items.find((item) => item.id === media)?.probe?.kind ?? 'video';
  const problem = fetcher.state === 'idle' ? fetcher.data?.problem : null;
  return (
    <div className="flex min-h-0 flex-1">
      <main ref={room} className="min-w-0 flex-1 overflow-y-auto px-4 pb-6">
        <div className="flex h-12 items-center gap-3">
          <Link
            to={`/projects/${params.projectId}/footage`}
            className="text-muted hover:text-text"
            aria-label="Back to the footage"
          >
            <ArrowLeft size={16} />
          </Link>
          <h1 className="text-sm font-semibold">People</h1>
          <span className="text-muted">
            {people.length ? `${people.length} told apart by their faces. Drag one onto another to join them.` : ''}
          </span>
        </div>
        {problem && (
          <p role="alert" className="mb-3 rounded-md bg-raised px-3 py-2 text-shake">
            {problem}
          </p>
        )}
        {people.length === 0 ? (
          <div className="flex flex-col items-center gap-2 pt-24 text-center">
            <Users size={28} className="text-muted" aria-hidden />
            <p className="text-base font-semibold">Nobody yet</p>
            <p className="max-w-sm text-muted">
              Once footage with faces is read, everybody in it shows here, with the time on screen.
            </p>
          </div>
        ) : (
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(180px,1fr))] gap-4">
            {shown.map((person) => (
              <Movable
                as="li"
                key={person.id}
                kind="person"
                id={person.id}
                onLand={(moved) => send({ intent: 'join', person: moved, into: person.id })}
                className={`rounded-md border bg-raised p-3 ${chosen?.id === person.id ? 'border-text' : 'border-line'} ${person.hidden ? 'opacity-50' : ''}`}
              >
                <button
                  type="button"
                  className="block w-full"
                  aria-label={`Appearances of ${person.name}`}
                  aria-expanded={chosen?.id === person.id}
                  onClick={() => setOpen(chosen?.id === person.id ? null : person.id)}
                >
                  {person.portrait && (
                    <FaceCrop
                      address={addressOf(person.portrait.media)}
                      photo={kindOf(person.portrait.media) === 'photo'}
                      time={person.portrait.time}
                      box={person.portrait.box}
                    />
                  )}
                </button>
                <PersonName
                  key={person.name}
                  person={person}
                  onName={(name) => send({ intent: 'name', person: person.id, name })}
                />
                <div className="flex items-center justify-between">
                  <span className="tabular text-muted">{formatClock(person.seconds)} on screen</span>
                  <IconButton
                    label={person.hidden ? `Show ${person.name}` : `Hide ${person.name}`}
                    onClick={() => send({ intent: person.hidden ? 'show' : 'hide', person: person.id })}
                  >
                    {person.hidden ? <Eye size={15} /> : <EyeOff size={15} />}
                  </IconButton>
                </div>
              </Movable>
            ))}
          </ul>
        )}
      </main>
      {chosen && (
        <Appearances
          key={chosen.id}
          person={chosen}
          others={people.filter((each) => each.id !== chosen.id)}
          items={items}
          onSend={send}
        />
      )}
    </div>
  );
}

function PersonName({ person, onName }: { person: Person; onName(name: string): void }) {
  return (
    <input
      aria-label={`Name of ${person.name}`}
      defaultValue={person.name}
      maxLength={80}
      className="mt-2 w-full rounded bg-transparent text-base font-semibold hover:bg-line/50 focus:bg-line/50"
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      onBlur={(event) => event.target.value.trim() !== person.name && onName(event.target.value.trim())}
    />
  );
}

interface AppearancesProps {
  person: Person;
  others: Person[];
  items: ProjectData['items'];
  onSend(values: Record<string, string | string[]>): void;
}

/** Where a person is seen; some of it can be parted, or made the portrait. */
function Appearances({ person, others, items, onSend }: AppearancesProps) {
  const [picked, setPicked] = useState<Set<string>>(new Set());
  const toggle = (key: string) =>
    setPicked((now) => {
      const next = new Set(now);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  const one = person.tracks.find((track) => picked.size === 1 && picked.has(track.key));
  return (
    <aside
      className="flex w-[400px] shrink-0 flex-col border-l border-line bg-panel"
      aria-label={`Appearances of ${person.name}`}
    >
      <div className="border-b border-line px-4 py-3">
        <h2 className="text-base font-semibold">{person.name}</h2>
        <p className="text-muted">
          {counted(person.tracks.length, 'appearance')}, {formatClock(person.seconds)}
        </p>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto px-2 py-2">
        {person.tracks.map((track) => (
          <li key={track.key}>
            <label className="flex items-center gap-3 rounded px-2 py-1.5 hover:bg-raised">
              <input
                type="checkbox"
                className="h-4 w-4 accent-muted"
                checked={picked.has(track.key)}
                onChange={() => toggle(track.key)}
              />
              <span className="min-w-0 flex-1 truncate">
                {items.find((item) => item.id === track.media)?.name ?? 'missing'}
              </span>
              <span className="text-xs text-muted">
                {track.size}
                {track.smile > 0.6 ? ', laughs' : ''}
              </span>
              <span className="tabular text-muted">
                {formatClock(track.start)} – {formatClock(track.end)}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2 border-t border-line px-4 py-3">
        <Button
          disabled={picked.size === 0 || picked.size === person.tracks.length}
          onClick={() => {
            onSend({ intent: 'split', person: person.id, tracks: [...picked] });
            setPicked(new Set());
          }}
        >
          <Scissors size={15} aria-hidden /> Somebody else
        </Button>
        <Button
          disabled={!one}
          onClick={() =>
            one &&
            onSend({ intent: 'portrait', person: person.id, media: one.media, time: String((one.start + one.end) / 2) })
          }
        >
          Use as portrait
        </Button>
        <select
          aria-label={`Join ${person.name} with`}
          className={`${inputLook} !h-[30px] max-w-40`}
          value=""
          onChange={(event) => onSend({ intent: 'join', person: person.id, into: event.target.value })}
        >
          <option value="" disabled>
            Same as…
          </option>
          {others.map((other) => (
            <option key={other.id} value={other.id}>
              {other.name}
            </option>
          ))}
        </select>
      </div>
    </aside>
  );
}

import { Download, Pencil, Trash2, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { counted } from '#core/sentences';
import { Button, IconButton, inputLook } from '../../ui/controls';
import type { Tastes } from '../model/useTastes';

/** A taste goes on from project to project: which one this project learns by, and what can be done with it. */
export function TastePart({ tastes, onTaste }: { tastes: Tastes; onTaste(taste: string | null): void }) {
  const { taste, others, projects, problem, change } = tastes;
  const own = tastes.tastes.find(({ id }) => id === taste) ?? null;
  const [naming, setNaming] = useState<'add' | 'rename' | null>(null);
  const [removed, setRemoved] = useState<{ id: string; name: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const follow = async (body: object) => {
    const id = await change(body);
    if (id !== null) onTaste(id);
    return id !== null;
  };
  return (
    <div className="mt-1.5">
      <div className="flex items-center gap-1">
        <label className="flex min-w-0 flex-1 items-center gap-2">
          <span className="text-xs text-muted">Taste</span>
          <select
            className={`${inputLook} h-7 min-w-0 flex-1`}
            value={own?.id ?? ''}
            onChange={(event) =>
              event.target.value === 'new' ? setNaming('add') : onTaste(event.target.value || null)
            }
          >
            <option value="">This project only</option>
            {tastes.tastes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
            <option value="new">New taste …</option>
          </select>
        </label>
        {own && (
          <>
            <IconButton label="Rename the taste" onClick={() => setNaming('rename')}>
              <Pencil size={14} aria-hidden />
            </IconButton>
            <a
              href={`/tastes/${own.id}`}
              download
              aria-label="Export the taste"
              title="Export the taste"
              className="inline-flex h-7 w-7 items-center justify-center rounded-md text-text hover:bg-line/60"
            >
              <Download size={14} aria-hidden />
            </a>
            <IconButton
              label="Delete the taste"
              onClick={() => void change({ intent: 'remove', id: own.id }).then((id) => id && setRemoved(own))}
            >
              <Trash2 size={14} aria-hidden />
            </IconButton>
          </>
        )}
        <IconButton label="Import a taste" onClick={() => file.current?.click()}>
          <Upload size={14} aria-hidden />
        </IconButton>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          aria-label="A taste as a file"
          className="hidden"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = '';
            void chosen?.text().then((text) => follow({ intent: 'bring', text }));
          }}
        />
      </div>
      {naming && (
        <NameField
          first={naming === 'rename' ? (own?.name ?? '') : ''}
          onName={(name) =>
            void follow({ intent: naming, name, ...(naming === 'rename' ? { id: own!.id } : {}) }).then(
              (isDone) => isDone && setNaming(null),
            )
          }
          onCancel={() => setNaming(null)}
        />
      )}
      {problem && (
        <p role="alert" className="mt-1 text-xs text-shake">
          {problem}
        </p>
      )}
      {removed && !tastes.tastes.some(({ id }) => id === removed.id) && (
        <p className="mt-1 flex items-center gap-2 text-xs text-muted" role="status">
          “{removed.name}” is deleted; its choices stay with their projects.
          <Button
            look="quiet"
            className="!h-6 !px-2 text-xs"
            onClick={() =>
              void follow({ intent: 'restore', id: removed.id }).then((isBack) => isBack && setRemoved(null))
            }
          >
            Bring back
          </Button>
        </p>
      )}
      {own && !removed && (
        <p className="mt-1 text-xs text-muted" data-testid="taste">
          {others.length === 0
            ? 'What you keep and drop here teaches it. Nothing has been decided elsewhere yet.'
            : `With ${counted(others.length, 'choice')} from ${projects === 0 ? 'a file' : `${counted(projects, 'other project')}${own.brought > 0 ? ' and a file' : ''}`}.`}
        </p>
      )}
    </div>
  );
}

function NameField({ first, onName, onCancel }: { first: string; onName(name: string): void; onCancel(): void }) {
  const [name, setName] = useState(first);
  return (
    <form
      className="mt-1.5 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onName(name.trim());
      }}
    >
      <input
        autoFocus
        aria-label="Name of the taste"
        placeholder="Village events"
        maxLength={60}
        className={`${inputLook} h-7 min-w-0 flex-1`}
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onCancel()}
      />
      <Button className="!h-7" type="submit" disabled={!name.trim()}>
        Keep
      </Button>
    </form>
  );
}

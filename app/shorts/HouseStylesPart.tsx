import { useState } from 'react';
import type { HouseStyle } from '#core/reel';
import type { ShortSetData } from '#usecases/shorts';
import { Button, inputLook } from '../ui/controls';
import { DeleteButton } from '../ui/DeleteButton';

interface HouseStylesPartProps {
  styles: ShortSetData['styles'];
  onDress(style: HouseStyle, name: string): void;
  /** @returns whether it is kept */
  onKeep(name: string, shared: boolean): Promise<boolean>;
  onForget(id: string): void;
}

/** House styles that can be put on, and what is worn now kept as one. */
export function HouseStylesPart({ styles, onDress, onKeep, onForget }: HouseStylesPartProps) {
  return (
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
            <Button className="ml-auto !h-7 !px-2" onClick={() => onDress(house.document, house.name)}>
              Put it on
            </Button>
            {house.own && (
              <DeleteButton
                label={`Delete “${house.name}”`}
                question={`Delete the house style “${house.name}”?`}
                says="This cannot be undone. Reels that were given it keep their looks."
                onDelete={() => onForget(house.id)}
              />
            )}
          </li>
        ))}
      </ul>
      <KeepForm onKeep={onKeep} />
    </div>
  );
}

function KeepForm({ onKeep }: Pick<HouseStylesPartProps, 'onKeep'>) {
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const keep = async () => {
    if (await onKeep(name, shared)) setName('');
  };
  return (
    <form
      className="mt-1.5 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
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
  );
}

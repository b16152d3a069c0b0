import { Download, Upload } from 'lucide-react';
import { useState } from 'react';
import { freeName, keepKeys, readKeys, type KeptKeys } from '../keys';
import { Button, IconButton, inputLook } from './controls';
import { FilePicker } from './FileButton';

/** Which set of keys is used; sets are named, copied, deleted, and taken along as files. */
export function SetsBar({ kept }: { kept: KeptKeys }) {
  const [problem, setProblem] = useState<string | null>(null);
  const { used, sets } = kept;
  const rename = (given: string) => {
    if (used === null || !given.trim() || given.trim() === used) return;
    const { [used]: own = {}, ...others } = sets;
    const name = freeName({ used: null, sets: others }, given);
    keepKeys({ used: name, sets: { ...others, [name]: own } });
  };
  const remove = () => {
    if (used === null) return;
    const { [used]: _, ...others } = sets;
    keepKeys({ used: null, sets: others });
  };
  const bring = async (file: File) => {
    const given: unknown = await file
      .text()
      .then((text) => JSON.parse(text) as unknown)
      .catch(() => null);
    const { format, name, keys } = (given ?? {}) as Partial<Record<'format' | 'name' | 'keys', unknown>>;
    if (format !== keysFormat) return setProblem('This is no file of keys from Bright Reel.');
    setProblem(null);
    const as = freeName(kept, typeof name === 'string' ? name : file.name.replace(/\.json$/, ''));
    keepKeys({ used: as, sets: { ...sets, [as]: readKeys(keys) } });
  };
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2 rounded-md bg-ground p-2">
      <select
        aria-label="Set of keys"
        className={inputLook}
        value={used ?? ''}
        onChange={(event) => keepKeys({ used: event.target.value || null, sets })}
      >
        <option value="">The usual keys</option>
        {Object.keys(sets).map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      {used !== null && (
        <>
          <input
            key={used}
            aria-label="Name of this set"
            maxLength={40}
            defaultValue={used}
            onBlur={(event) => rename(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            className={`${inputLook} w-36`}
          />
          <Button onClick={remove}>Delete this set</Button>
          <IconButton label="Export these keys" onClick={() => takeAlong(used, sets[used] ?? {})}>
            <Download size={15} />
          </IconButton>
        </>
      )}
      <FilePicker label="A file of keys" onFiles={([file]) => file && void bring(file)}>
        {(choose) => (
          <IconButton label="Import keys" onClick={choose}>
            <Upload size={15} />
          </IconButton>
        )}
      </FilePicker>
      <span className="text-muted">
        {used === null
          ? 'Press a key below to give a command another one; a set of your own is made.'
          : 'Kept in this browser, and exported as a file.'}
      </span>
      {problem && (
        <span role="alert" className="text-shake">
          {problem}
        </span>
      )}
    </div>
  );
}

const keysFormat = 'Bright Reel keys';

function takeAlong(name: string, keys: object): void {
  const text = JSON.stringify({ format: keysFormat, version: 1, name, keys }, null, 2);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = `${name}.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

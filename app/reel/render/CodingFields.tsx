import { useState } from 'react';
import {
  captionWays,
  formatNames,
  outputFormats,
  scaledSize,
  type CaptionWay,
  type Coding,
  type OutputFormat,
  type Reel,
} from '#core/reel';
import { Button, inputLook } from '../../ui/controls';
import { QualityField } from '../QualityField';
import { renderWords as words } from './renderWords';

interface CodingFieldsProps {
  coding: Coding;
  reel: Reel;
  onChange(coding: Coding): void;
}

/** As what a file is made: format, quality, resolution, captions. */
export function CodingFields({ coding, reel, onChange }: CodingFieldsProps) {
  const { format, quality, lines } = coding;
  return (
    <>
      <label className="flex items-center justify-between">
        {words.format}
        <select
          className={`${inputLook} !h-7 w-56`}
          value={format}
          onChange={(event) => onChange({ ...coding, format: event.target.value as OutputFormat })}
        >
          {outputFormats.map((each) => (
            <option key={each} value={each}>
              {formatNames[each]}
            </option>
          ))}
        </select>
      </label>
      {(format === 'mp4' || format === 'webm') && (
        <QualityField quality={quality} onQuality={(next) => onChange({ ...coding, quality: next })} />
      )}
      {format !== 'wav' && (
        <ResolutionField size={reel.size} lines={lines} onLines={(next) => onChange({ ...coding, lines: next })} />
      )}
      {(format === 'mp4' || format === 'webm') && (
        <label className="flex items-center justify-between">
          {words.captions}
          <select
            className={`${inputLook} !h-7 w-56`}
            value={coding.captions}
            onChange={(event) => onChange({ ...coding, captions: event.target.value as CaptionWay })}
          >
            {captionWays.map((each) => (
              <option key={each} value={each}>
                {words.captionWays[each]}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}

interface ResolutionFieldProps {
  /** Of the reel. */
  size: Reel['size'];
  /** Of the shorter side of the file; null for those of the reel. */
  lines: number | null;
  onLines(lines: number | null): void;
}

function ResolutionField({ size, lines, onLines }: ResolutionFieldProps) {
  const { width, height } = scaledSize(size, lines);
  return (
    <label className="flex items-center justify-between">
      {words.resolution}
      <span className="flex w-56 items-center gap-2">
        <input
          list="lines"
          inputMode="numeric"
          className={`${inputLook} tabular !h-7 w-20`}
          placeholder={String(Math.min(size.width, size.height))}
          value={lines ?? ''}
          onChange={(event) => onLines(Number(event.target.value.replace(/\D/g, '').slice(0, 4)) || null)}
        />
        <datalist id="lines">
          {[480, 720, 1080, 2160].map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
        <span className="tabular text-muted">
          {width}×{height}
        </span>
      </span>
    </label>
  );
}

/** Keeps what is set by hand under a name, for all projects. */
export function KeepPreset({ onKeep }: { onKeep(name: string): Promise<boolean> }) {
  const [name, setName] = useState<string | null>(null);
  if (name === null)
    return (
      <button type="button" className="text-xs text-muted underline hover:text-text" onClick={() => setName('')}>
        {words.keep}
      </button>
    );
  const keep = async () => {
    if (name.trim() && (await onKeep(name))) setName(null);
  };
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <input
        autoFocus
        aria-label={words.presetName}
        placeholder={words.presetName}
        maxLength={60}
        className={`${inputLook} !h-7 min-w-0 flex-1`}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" className="!h-7" disabled={!name.trim()}>
        {words.keepNow}
      </Button>
    </form>
  );
}

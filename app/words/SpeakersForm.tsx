import { Play } from 'lucide-react';
import { useState } from 'react';
import { counted } from '#core/sentences';
import { formatClock, totalLength } from '#core/time';
import { mostVoices } from '#core/voices';
import { Button, IconButton, inputLook } from '../ui/controls';
import { voiceColour, voiceName, type Speakers } from './useSpeakers';

interface SpeakersFormProps {
  speakers: Speakers;
  onSeek(seconds: number): void;
  onLeave(): void;
}

/** The speakers of a file: told apart by their voices, named, joined where two of them are one. */
export function SpeakersForm({ speakers, onSeek, onLeave }: SpeakersFormProps) {
  const { known, problem, send } = speakers;
  const [count, setCount] = useState('');
  if (!known) return <p className="mb-3 text-muted">Looking for speakers…</p>;
  const { voices, turns, looking } = known;
  const together = totalLength(turns.filter(({ also }) => also !== undefined));
  return (
    <section aria-label="Speakers" className="mb-3 rounded-md bg-raised px-3 py-2">
      <p className="text-xs text-muted">
        {voices.length === 0
          ? 'Speakers are told apart by their voices. Subtitles can name them then, and the picture of a short goes to whoever speaks.'
          : 'Listen to each, and say who it is. Two that are one person are joined.'}
      </p>
      <ul className="mt-2">
        {voices.map((line) => (
          <li key={`${line.voice} ${line.name}`} className="flex items-center gap-2 py-1">
            <span
              aria-hidden
              className="h-2.5 w-2.5 shrink-0 rounded-full"
              style={{ background: voiceColour(line.voice) }}
            />
            <IconButton label={`Listen to ${voiceName(line)}`} onClick={() => onSeek(line.longest.start)}>
              <Play size={14} />
            </IconButton>
            <input
              aria-label={`Name of ${voiceName(line)}`}
              defaultValue={line.name ?? ''}
              placeholder={voiceName(line)}
              maxLength={80}
              className={`min-w-0 flex-1 ${inputLook}`}
              onBlur={(event) => {
                const name = event.target.value.trim();
                if (name !== (line.name ?? '')) send({ intent: 'name', voice: line.voice, name });
              }}
              onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            />
            {line.proposed && (
              <Button
                onClick={() => send({ intent: 'name', voice: line.voice, name: line.proposed! })}
                aria-label={`${voiceName(line)} is ${line.proposed}`}
                title="This face is seen while the voice is heard"
              >
                {line.proposed}?
              </Button>
            )}
            <span className="tabular w-12 text-right text-xs text-muted">{formatClock(line.seconds)}</span>
            {voices.length > 1 && (
              <select
                aria-label={`Join ${voiceName(line)} with`}
                value=""
                className={`w-20 ${inputLook}`}
                onChange={(event) => send({ intent: 'join', voice: line.voice, into: event.target.value })}
              >
                <option value="">Join…</option>
                {voices
                  .filter(({ voice }) => voice !== line.voice)
                  .map((other) => (
                    <option key={other.voice} value={other.voice}>
                      {voiceName(other)}
                    </option>
                  ))}
              </select>
            )}
          </li>
        ))}
      </ul>
      {together >= 1 && (
        <p className="mt-1 text-xs text-muted">
          For {formatClock(together)} two speak at once; the words say where. Mark words and say who says them where
          that is not so.
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-shake">
          {problem}
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {looking ? (
          <p role="status" className="text-muted">
            Telling the speakers apart, {Math.round((looking.progress ?? 0) * 100)} %…
          </p>
        ) : (
          <>
            <select
              aria-label="How many speak"
              value={count}
              onChange={(event) => setCount(event.target.value)}
              className={inputLook}
            >
              <option value="">as many as are heard</option>
              {Array.from({ length: mostVoices }, (_, at) => (
                <option key={at} value={at + 1}>
                  {counted(at + 1, 'speaker')}
                </option>
              ))}
            </select>
            <Button onClick={() => send({ intent: 'tell', ...(count ? { count } : {}) })}>
              {voices.length > 0 ? 'Tell apart anew' : 'Tell the speakers apart'}
            </Button>
          </>
        )}
        <Button className="ml-auto" onClick={onLeave}>
          Done
        </Button>
      </div>
      {voices.some(({ name }) => name) && !looking && (
        <p className="mt-1 text-xs text-muted">Told apart anew, the speakers lose their names.</p>
      )}
    </section>
  );
}

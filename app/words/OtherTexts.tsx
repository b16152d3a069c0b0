import { counted, formatDay } from '#core/sentences';
import { useState } from 'react';
import { formatClock } from '#core/time';
import type { ImportQuestion } from '#usecases/words';
import { Button, inputLook } from '../ui/controls';

export interface OtherLine {
  id: string;
  source: string;
  language: string | null;
  count: number;
  createdAt: string | Date;
}

const languages = new Intl.DisplayNames(['en'], { type: 'language' });
/** BCP 47 has “und” for what is not known; of a recogniser it means that the sound tells. */
export const languageName = (tag: string) => (tag === 'und' ? 'the language as spoken' : (languages.of(tag) ?? tag));
export const sourceWords = (source: string | null | undefined) =>
  source === 'corrected' ? 'corrected by hand' : source === 'imported' ? 'brought in' : `transcribed by ${source}`;

const inLanguage = (language: string | null) => (language ? ` in ${languageName(language)}` : '');
/** Languages that are offered when the guess is wrong; common practice, no source. */
const offered = [
  'en',
  'de',
  'fr',
  'es',
  'it',
  'pt',
  'nl',
  'pl',
  'cs',
  'sv',
  'da',
  'nb',
  'fi',
  'hu',
  'ro',
  'el',
  'tr',
  'uk',
  'ru',
  'ar',
  'he',
  'hi',
  'ja',
  'ko',
  'zh',
  'vi',
  'id',
];

/** Before a text takes the place of the one that is shown: what comes, what is there, and what becomes of it. */
export function ImportAsk({
  name,
  ask,
  onAnswer,
}: {
  name: string;
  ask: ImportQuestion;
  onAnswer(language: string | null): void;
}) {
  const [language, setLanguage] = useState(ask.language ?? '');
  const kept = ask.shown.source === 'corrected' || ask.shown.source === 'imported';
  return (
    <section aria-label="Bring in a text" className="mb-3 rounded-md bg-raised px-3 py-2">
      <p>
        {name ? `“${name}”` : 'The pasted text'} holds {counted(ask.count, 'word')}. {counted(ask.shown.count, 'word')}
        {inLanguage(ask.shown.language)}, {sourceWords(ask.shown.source)}, {ask.shown.count === 1 ? 'is' : 'are'} shown
        now.
      </p>
      <label className="mt-2 flex items-center gap-2">
        The text is in
        <select value={language} onChange={(event) => setLanguage(event.target.value)} className={inputLook}>
          <option value="">a language that is not listed</option>
          {[...new Set([...(ask.language ? [ask.language] : []), ...offered])].map((tag) => (
            <option key={tag} value={tag}>
              {languageName(tag)}
            </option>
          ))}
        </select>
      </label>
      <p className="mt-2 text-xs text-muted">
        {kept
          ? 'What is shown now is kept below, under “Other texts”.'
          : 'What was heard is kept, too: “Back to what was heard” shows it again.'}
      </p>
      <div className="mt-2 flex gap-2">
        <Button look="lamp" onClick={() => onAnswer(language)}>
          Show the new text
        </Button>
        <Button onClick={() => onAnswer(null)}>Leave it as it is</Button>
      </div>
    </section>
  );
}

const ago = (at: string | Date): string => {
  const seconds = (Date.now() - +new Date(at)) / 1000;
  if (seconds < 60) return 'just now';
  return seconds < 86_400
    ? `${formatClock(seconds).replace(/:\d+$/, '')} ${seconds < 3600 ? 'min' : 'h'} ago`
    : formatDay(at);
};

/** Texts that stand beside the one that is shown, each to be shown again; the one just replaced stands out. */
export function OtherTexts({
  others,
  replaced,
  onShow,
}: {
  others: readonly OtherLine[];
  replaced: string | null;
  onShow(id: string): void;
}) {
  const last = others.find((each) => each.id === replaced);
  return (
    <section aria-label="Other texts" className="mb-2 text-xs text-muted">
      {last && (
        <p role="status" className="mb-1 flex items-center gap-2 rounded-md bg-raised px-3 py-1.5 text-text">
          <span>The text before is kept.</span>
          <button type="button" className="ml-auto underline" onClick={() => onShow(last.id)}>
            Go back to it
          </button>
        </p>
      )}
      <h2>Other texts</h2>
      <ul>
        {others.map((each) => (
          <li key={each.id} className="flex items-center gap-2 py-0.5">
            <span className="truncate">
              {counted(each.count, 'word')}
              {inLanguage(each.language)}, {sourceWords(each.source)}, {ago(each.createdAt)}
            </span>
            <button
              type="button"
              className="ml-auto shrink-0 underline hover:text-text"
              onClick={() => onShow(each.id)}
            >
              Show again
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

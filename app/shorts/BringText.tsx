import { FileInput } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import type { ImportQuestion } from '#usecases/words';
import { Button } from '../ui/controls';
import { ImportAsk } from '../words/OtherTexts';

/** Another text for the whole recording; where one stands already that may not give way unasked, it asks. */
export function BringText({ media, onDone }: { media: string; onDone(): void }) {
  const picker = useRef<HTMLInputElement>(null);
  const sender = useFetcher<{ problem: string | null; ask?: ImportQuestion }>();
  const [chosen, setChosen] = useState<{ name: string; text: string } | null>(null);
  const answer = sender.state === 'idle' ? sender.data : undefined;
  const bringIn = (file: { name: string; text: string }, more: Record<string, string> = {}) => {
    setChosen(file);
    void sender.submit({ intent: 'import', ...file, ...more }, { method: 'post', action: `/media/${media}/words` });
  };
  const settled = useEffectEvent(() => {
    if (answer?.ask) return;
    setChosen(null);
    if (answer && !answer.problem) onDone();
  });
  useEffect(() => settled(), [answer]);
  const take = async (file: File | undefined) => {
    if (file) bringIn({ name: file.name, text: await file.text() });
  };
  return (
    <>
      {answer?.problem && <p role="alert">{answer.problem}</p>}
      {answer?.ask && chosen && (
        <ImportAsk
          name={chosen.name}
          ask={answer.ask}
          onAnswer={(language) => (language === null ? setChosen(null) : bringIn(chosen, { anyway: 'true', language }))}
        />
      )}
      <Button title="SRT, WebVTT, ASS or JSON, for the whole recording" onClick={() => picker.current?.click()}>
        <FileInput size={14} aria-hidden /> Bring in a text
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        accept=".srt,.vtt,.ass,.ssa,.json,text/plain"
        aria-label="Timed text"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}

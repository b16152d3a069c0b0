import { useEffect, useEffectEvent, useState } from 'react';
import { useFetcher } from 'react-router';
import type { ImportQuestion } from '#usecases/words';
import { ImportAsk } from '../words/OtherTexts';
import { TextFileButton } from '../words/TextFileButton';
import { readText } from '../words/readText';

/** Another text for the whole recording; where one stands already that may not give way unasked, it asks. */
export function BringText({ media, onDone }: { media: string; onDone(): void }) {
  const sender = useFetcher<{ problem: string | null; ask?: ImportQuestion; aligning?: boolean }>();
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
  const [unread, setUnread] = useState<string | null>(null);
  const take = (file: File) =>
    readText(file).then(
      (text) => bringIn(text),
      (error: Error) => setUnread(error.message),
    );
  return (
    <>
      {(unread ?? answer?.problem) && <p role="alert">{unread ?? answer?.problem}</p>}
      {answer?.ask && chosen && (
        <ImportAsk
          name={chosen.name}
          ask={answer.ask}
          onAnswer={(language) => (language === null ? setChosen(null) : bringIn(chosen, { anyway: 'true', language }))}
        />
      )}
      {answer?.aligning && (
        <p role="status">The text is being aligned to the sound; its words show when that is done.</p>
      )}
      <TextFileButton
        onFile={(file) => {
          setUnread(null);
          void take(file);
        }}
      />
    </>
  );
}

import { FileInput } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { useFetcher, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { rates } from '#core/time';
import type { action } from '../routes/reelImport';
import type { Item } from '#usecases/projects';
import { Button, inputLook } from '../ui/controls';

/** Brings in a reel that another program wrote; footage that is not found by itself is chosen by hand. */
export function ImportReel({ projectId, items }: { projectId: string; items: Item[] }) {
  const picker = useRef<HTMLInputElement>(null);
  const sender = useFetcher<typeof action>();
  const navigate = useNavigate();
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [rate, setRate] = useState<keyof typeof rates>('30');
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const send = (from: { name: string; text: string }, anyway = false, at = rate) =>
    void sender.submit(JSON.stringify({ ...from, rate: at, chosen, anyway }), {
      method: 'post',
      action: `/projects/${projectId}/reels/import`,
      encType: 'application/json',
    });
  const answer = sender.state === 'idle' ? sender.data : undefined;
  const arrived = useEffectEvent((reel: string, left: readonly string[]) => {
    for (const sentence of left) toast(sentence);
    setFile(null);
    void navigate(`/projects/${projectId}/reels/${reel}`);
  });
  useEffect(() => {
    if (answer?.reel) arrived(answer.reel, answer.left);
  }, [answer]);
  const edl = file && /\.edl$/i.test(file.name);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button onClick={() => picker.current?.click()}>
        <FileInput size={15} aria-hidden /> Import a reel
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        accept=".otio,.edl,.json"
        aria-label="Reel of another program"
        onChange={(event) => {
          const given = event.target.files?.[0];
          event.target.value = '';
          void given?.text().then((text) => {
            const next = { name: given.name, text };
            setFile(next);
            setChosen({});
            if (!/\.edl$/i.test(given.name)) send(next);
          });
        }}
      />
      <span className="text-muted">OpenTimelineIO or CMX 3600</span>
      {edl && !answer?.missing.length && (
        <span className="flex items-center gap-2">
          <label className="flex items-center gap-2 text-muted">
            {file.name} counts at
            <select
              className={inputLook}
              value={rate}
              onChange={(event) => setRate(event.target.value as keyof typeof rates)}
            >
              {Object.keys(rates).map((each) => (
                <option key={each} value={each}>
                  {each} fps
                </option>
              ))}
            </select>
          </label>
          <Button look="lamp" onClick={() => send(file)}>
            Bring in
          </Button>
        </span>
      )}
      {answer?.problem && (
        <p role="alert" className="w-full text-shake">
          {answer.problem}
        </p>
      )}
      {answer && answer.missing.length > 0 && file && (
        <form
          className="w-full rounded-md bg-raised p-3"
          onSubmit={(event) => {
            event.preventDefault();
            send(file, true);
          }}
        >
          <p className="mb-2">
            {answer.missing.length === 1 ? 'One file was' : `${answer.missing.length} files were`} not found. Say what
            stands for {answer.missing.length === 1 ? 'it' : 'them'}; what is left out becomes a gap.
          </p>
          {answer.missing.map((name) => (
            <label key={name} className="mb-1.5 flex items-center gap-3">
              <span className="w-64 truncate">{name}</span>
              <select
                className={`${inputLook} w-64`}
                value={chosen[name] ?? ''}
                onChange={(event) => setChosen((now) => ({ ...now, [name]: event.target.value }))}
              >
                <option value="">leave out</option>
                {items
                  .filter((item) => item.probe && item.probe.kind !== 'sound')
                  .map((item) => (
                    <option key={item.id} value={item.id}>
                      {item.name}
                    </option>
                  ))}
              </select>
            </label>
          ))}
          <Button type="submit" look="lamp">
            Make the reel
          </Button>
        </form>
      )}
    </div>
  );
}

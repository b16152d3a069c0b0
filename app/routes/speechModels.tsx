import { AudioLines } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { useFetcher } from 'react-router';
import { changeSpeechModels, showSpeechModels, speechModelPlace, type SpeechModelsData } from '#usecases/speechModels';
import { UploadRow } from '../footage/UploadRow';
import { useUploads } from '../footage/useUploads';
import { useFilesLanding } from '../hands/useFilesLanding';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { speechModelWords } from '../speechModels/words';
import { AsidePlace } from '../ui/AsidePlace';
import { DeleteButton } from '../ui/DeleteButton';
import { FileButton } from '../ui/FileButton';
import { repeatedly } from '../ui/repeatedly';
import { useReload } from '../ui/useReload';
import type { Route } from './+types/speechModels';

export const loader = async () => ({ ...modelOf(await showSpeechModels()), place: speechModelPlace });

/** Uses another model, or removes one, by its `intent`. */
export async function action({ request }: Route.ActionArgs) {
  const changed = await changeSpeechModels(await formOf(request));
  return changed.ok ? succeeded() : failed(changed);
}

export const meta = () => [{ title: `${speechModelWords.title} · Bright Reel` }];

const lookMilliseconds = 2000;

/** What words are heard with: speech models that people bring, what each of them knows, and how long it takes here. */
export default function SpeechModels({ loaderData }: Route.ComponentProps) {
  const { models, inUse, without, problems, folder, place } = loaderData;
  const fetcher = useFetcher<{ problem: string | null }>();
  const { queue, lines } = useUploads(place);
  const room = useRef<HTMLDivElement>(null);
  const bring = (files: readonly File[]) => queue.add(files.map((file) => ({ file })));
  const over = useFilesLanding<'here'>(
    room,
    (files) => bring(files.map(({ file }) => file)),
    () => 'here',
  );
  const reload = useReload();
  const isTrying = models.some(({ pace, problem }) => pace === null && problem === null);
  useEffect(() => (isTrying ? repeatedly(reload, lookMilliseconds) : undefined), [isTrying, reload]);
  const send = (values: { intent: string; name: string }) => void fetcher.submit(values, { method: 'post' });
  const chosen = fetcher.formData?.get('intent') === 'use' ? fetcher.formData.get('name') : null;
  const wanted = typeof chosen === 'string' ? chosen : (inUse ?? '');
  const said = [...problems, ...(fetcher.data?.problem ? [fetcher.data.problem] : [])];
  return (
    <AsidePlace
      back={speechModelWords.back}
      title={speechModelWords.title}
      figure={speechModelWords.heardWith(inUse ?? without.name)}
    >
      <div ref={room}>
        <p className="mt-3 max-w-prose text-muted">{speechModelWords.about}</p>
        {said.map((problem) => (
          <p key={problem} role="alert" className="mt-3 rounded-md bg-raised px-3 py-2 text-shake">
            {problem}
          </p>
        ))}
        <p
          className={`mt-4 flex items-center gap-3 rounded-md border border-dashed px-4 py-3 ${over ? 'border-lampline bg-raised text-text' : 'border-line text-muted'}`}
        >
          <AudioLines size={16} aria-hidden />
          <span role="status">{over ? speechModelWords.dropHere : speechModelWords.drop}</span>
          <FileButton label={speechModelWords.chooseLabel} onFiles={bring}>
            {speechModelWords.choose}
          </FileButton>
        </p>
        <p className="mt-2 text-xs text-muted">{speechModelWords.laid(folder)}</p>
        {lines.map((upload) => (
          <UploadRow key={upload.id} upload={upload} onCancel={() => queue.cancel(upload.id)} />
        ))}

        <h2 id="heard-with" className="mt-8 text-base font-semibold">
          {speechModelWords.list}
        </h2>
        <ul role="radiogroup" aria-labelledby="heard-with" className="mt-2 divide-y divide-line">
          {models.map((model) => (
            <ModelRow
              key={model.name}
              model={model}
              isUsed={wanted === model.name}
              onUse={() => send({ intent: 'use', name: model.name })}
              onRemove={() => send({ intent: 'remove', name: model.name })}
            />
          ))}
          <li className="py-3">
            <label className="flex items-baseline gap-3">
              <input
                type="radio"
                name="in-use"
                checked={wanted === ''}
                onChange={() => send({ intent: 'use', name: '' })}
                className="accent-lamp"
              />
              <span>
                {speechModelWords.without(without.name)}
                <span className="block text-muted">{speechModelWords.languages(without.languages)}</span>
              </span>
            </label>
          </li>
        </ul>
      </div>
    </AsidePlace>
  );
}

interface ModelRowProps {
  model: SpeechModelsData['models'][number];
  isUsed: boolean;
  onUse(): void;
  onRemove(): void;
}

function ModelRow({ model, isUsed, onUse, onRemove }: ModelRowProps) {
  const { name, languages, pace, problem } = model;
  return (
    <li className="flex items-start gap-4 py-3">
      <div className="flex flex-1 items-baseline gap-3">
        <input
          id={`use-${name}`}
          type="radio"
          name="in-use"
          checked={isUsed}
          disabled={problem !== null}
          onChange={onUse}
          aria-label={speechModelWords.use(name)}
          className="accent-lamp"
        />
        <div className="min-w-0">
          <label htmlFor={`use-${name}`} className="break-all">
            {name}
          </label>
          <p className="text-muted">{speechModelWords.facts(model)}</p>
          {problem ? (
            <p role="alert" className="text-shake">
              {problem}
            </p>
          ) : (
            <p className="text-muted">{speechModelWords.pace(pace)}</p>
          )}
          {languages.length > 3 ? (
            <details className="text-muted">
              <summary className="cursor-pointer">{speechModelWords.languages(languages)}</summary>
              <p className="mt-1 text-xs">{speechModelWords.allLanguages(languages)}</p>
            </details>
          ) : (
            <p className="text-muted">{speechModelWords.languages(languages)}</p>
          )}
        </div>
      </div>
      <DeleteButton
        label={speechModelWords.remove(name)}
        question={speechModelWords.question(name)}
        says={speechModelWords.says}
        onDelete={onRemove}
      />
    </li>
  );
}

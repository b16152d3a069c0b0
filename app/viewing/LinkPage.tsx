import { useEffect, useState } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { formatClock } from '#core/time';
import type { LinkComment, LinkData, LinkVersion } from '#usecases/viewingLink';
import { useAway } from '../ui/connection';
import { Button } from '../ui/controls';
import { Comments } from './Comments';
import { Composer, type Said } from './Composer';
import { LinkHead } from './LinkHead';
import { Screen } from './Screen';
import { useSending } from './useSending';
import { useFilms } from './useFilms';
import { linkWords } from './words';
import { repeatedly } from '../ui/repeatedly';
import { useReload } from '../ui/useReload';

/** How often is asked what others said, and how far a film is that is being made, in milliseconds. */
const askEvery = { usually: 10_000, whileMade: 2_000 };

/** A reel that is shown to others: its versions, its film, what was said. */
export function LinkPage({ shown }: { shown: LinkData }) {
  const path = useLocation().pathname;
  const [search, setSearch] = useSearchParams();
  const films = useFilms();
  const away = useAway();
  const { send, problem, arrived } = useSending();
  const [chosen, setChosen] = useState<string | null>(null);
  const { versions, comments } = shown;
  // What somebody looks at stays when another version comes; it is offered.
  const [begunWith] = useState(() => newest(versions)?.id);
  const version =
    versionIn(versions, search.get('version')) ?? versions.find(({ id }) => id === begunWith) ?? newest(versions);
  const latest = newest(versions);
  const beside = versionIn(versions, search.get('beside'));
  useNews(versions.some(({ state }) => state === 'making'));
  if (!version) return <main className="p-8 text-base text-muted">{linkWords.none}</main>;
  const own = comments.filter((comment) => comment.version === version.id);
  const others = comments.filter((comment) => comment.version !== version.id);
  const { differences } = shown;
  const look = (key: 'version' | 'beside', number: number | null) =>
    setSearch(
      (now) => {
        if (number === null) now.delete(key);
        else now.set(key, String(number));
        // What is compared is said of two that are named.
        if (key === 'beside' && !now.has('version')) now.set('version', String(version.number));
        return now;
      },
      { replace: true, preventScrollReset: true },
    );
  const choose = (comment: LinkComment) => {
    setChosen(comment.id);
    films.pause();
    films.seek(comment.seconds);
    document.getElementById(`comment-${comment.id}`)?.scrollIntoView({ block: 'nearest' });
  };
  const say = (said: Said, more: Record<string, string>) =>
    send({ intent: 'comment', version: version.id, seconds: String(films.seconds), ...said, ...more });
  const takeBack = (id: string) => {
    send({ intent: 'take-back', id });
    toast(linkWords.takenBack, {
      action: { label: linkWords.undo, onClick: () => send({ intent: 'bring-back', id }) },
    });
  };
  const list = {
    chosen,
    onChoose: choose,
    arrived,
    onAnswer: (said: Said & { answers: string }) => say(said, { answers: said.answers }),
    onTakeBack: takeBack,
  };
  return (
    <main className="min-h-screen pb-16">
      <LinkHead shown={shown} version={version} beside={beside} path={path} onLook={look} onSend={send} />
      {away && (
        <p role="status" className="bg-raised px-4 py-2 text-shake">
          {linkWords.away}
        </p>
      )}
      {latest && latest.id !== begunWith && latest.number > version.number && (
        <p role="status" className="flex items-center gap-3 bg-raised px-4 py-2">
          {linkWords.isHere(latest.number)}
          <Button className="pointer-coarse:!h-11" onClick={() => look('version', latest.number)}>
            {linkWords.showVersion(latest.number)}
          </Button>
        </p>
      )}
      <Screen
        path={path}
        version={version}
        beside={beside}
        films={films}
        comments={own}
        chosen={chosen}
        onChoose={choose}
      />
      <div className="mx-auto max-w-5xl px-3">
        {beside && differences && <Differences says={differences} />}
        {version.state === 'ready' && (
          <div className="mt-3">
            <Composer
              isLarge
              draft={`comment on ${path}`}
              label={linkWords.commentAt(formatClock(films.seconds, true))}
              placeholder={linkWords.text}
              arrived={arrived}
              onBegin={films.pause}
              onSend={(said) => say(said, {})}
            />
          </div>
        )}
        {problem && (
          <p role="alert" className="mt-2 text-shake">
            {problem}
          </p>
        )}
        {own.length > 0 ? (
          <h2 className="mt-6 text-base font-semibold">{linkWords.comments(own.length)}</h2>
        ) : (
          version.state === 'ready' && <p className="mt-6 text-muted">{linkWords.none}</p>
        )}
        <Comments comments={own} {...list} />
        {others.length > 0 && (
          <details className="mt-4">
            <summary className="cursor-pointer text-muted">{linkWords.earlier(others.length)}</summary>
            <Comments
              comments={others}
              versionOf={(comment) => versions.find(({ id }) => id === comment.version)?.number ?? 0}
              {...list}
            />
          </details>
        )}
      </div>
    </main>
  );
}

function Differences({ says }: { says: readonly string[] }) {
  return (
    <section className="mt-3 rounded-md bg-raised p-3">
      <h2 className="font-semibold">{linkWords.differences}</h2>
      {says.length === 0 && <p className="text-muted">{linkWords.noDifference}</p>}
      <ul className="max-h-40 overflow-y-auto">
        {says.map((each, index) => (
          <li key={index}>{each}</li>
        ))}
      </ul>
    </section>
  );
}

const versionIn = (versions: readonly LinkVersion[], number: string | null): LinkVersion | null =>
  versions.find((each) => String(each.number) === number) ?? null;
/** The newest that can be seen; the newest of all when none can. */
const newest = (versions: readonly LinkVersion[]): LinkVersion | null =>
  versions.findLast(({ state }) => state === 'ready') ?? versions.at(-1) ?? null;

/** Learns what others said meanwhile. */
function useNews(isMade: boolean) {
  const reload = useReload();
  useEffect(() => {
    const look = () => (document.visibilityState === 'visible' ? reload() : null);
    return repeatedly(look, isMade ? askEvery.whileMade : askEvery.usually);
  }, [isMade, reload]);
}

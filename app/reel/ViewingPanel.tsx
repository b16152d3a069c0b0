import { CommentList } from './ViewingComments';
import { LinkForm, LinkRow } from './ViewingLink';
import { Versions } from './ViewingVersions';
import type { ReelDesk } from './useReelDesk';
import type { ReelViewing } from './useViewing';
import { viewingWords as words } from './viewingWords';

interface ViewingPanelProps {
  desk: ReelDesk;
  viewing: ReelViewing;
  /** The comment that was chosen on the strips. */
  chosen: string | null;
  onChoose(id: string | null): void;
}

/** The link under which others see the reel, its versions, and what was said of them. */
export function ViewingPanel({ desk, viewing: all, chosen, onChoose }: ViewingPanelProps) {
  const { viewing, comments, problem, isBusy, send } = all;
  if (viewing === undefined) return null;
  return (
    <div className="space-y-4">
      {problem && (
        <p role="alert" className="text-shake">
          {problem}
        </p>
      )}
      {viewing === null ? (
        <>
          <p className="text-muted">{words.what}</p>
          <LinkForm intent="open" isBusy={isBusy} send={send} submitLabel={words.makeLink} />
        </>
      ) : (
        <>
          {viewing.isOpen ? <LinkRow viewing={viewing} /> : <p className="text-muted">{words.closed}</p>}
          <Versions desk={desk} viewing={viewing} isBusy={isBusy} send={send} />
          <CommentList desk={desk} comments={comments} send={send} chosen={chosen} onChoose={onChoose} />
          <details className="border-t border-line pt-3" open={!viewing.isOpen}>
            <summary className="cursor-pointer font-semibold">{words.settings}</summary>
            <LinkForm
              key={`${viewing.path}${viewing.endsAt}${viewing.hasPassword}`}
              intent={viewing.isOpen ? 'settings' : 'open'}
              viewing={viewing}
              isBusy={isBusy}
              send={send}
              submitLabel={viewing.isOpen ? words.save : words.openAgain}
            />
          </details>
        </>
      )}
    </div>
  );
}

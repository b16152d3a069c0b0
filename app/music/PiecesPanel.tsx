import { counted } from '#core/sentences';
import type { MontagePiece } from '#core/montage';
import type { Reel } from '#core/reel';
import { LongList } from '../ui/LongList';
import { PieceRow } from './PieceRow';
import { piecesOfFiles, piecesOfReel } from './pieceSources';
import { PieceSourceMenu } from './PieceSourceMenu';
import type { MontageDesk } from './useMontage';

interface PiecesPanelProps {
  desk: MontageDesk;
  projectId: string;
  reels: { id: string; name: string }[];
  chosen: string | null;
  onChoose(id: string | null): void;
}

/** What the slots are filled with: order by hand, in points, action, and where more comes from. */
export function PiecesPanel({ desk, projectId, reels, chosen, onChoose }: PiecesPanelProps) {
  const { montage, actions, items, gathering, fit, shaky } = desk;
  const used = new Map<string, number>();
  for (const { piece } of montage.slots) if (piece) used.set(piece.piece, (used.get(piece.piece) ?? 0) + 1);
  const move = (from: number, to: number) => {
    if (from === to || from < 0 || to < 0 || to >= montage.pieces.length) return;
    const pieces = [...montage.pieces];
    const [piece] = pieces.splice(from, 1);
    pieces.splice(to, 0, piece!);
    // The order matters only where it is asked for.
    actions.pieces(pieces);
  };
  const add = (more: MontagePiece[]) => {
    if (more.length > 0) actions.pieces([...montage.pieces, ...more]);
  };
  const fromReel = async (id: string) => {
    const answer = await fetch(`/projects/${projectId}/reels/${id}/edits`).catch(() => null);
    if (!answer?.ok) return desk.setProblem('This reel could not be opened. Try again.');
    const { reel } = (await answer.json()) as { reel: { document: Reel } };
    add(piecesOfReel(reel.document, items));
  };
  const leftOut = shaky && montage.filling.steadyOnly ? `, ${shaky} shaky left out` : '';
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <span className="text-muted" role="status">
          {gathering ? 'Looking for pieces…' : `${counted(fit.length, 'piece')}${leftOut}`}
        </span>
        <PieceSourceMenu
          reels={reels}
          onGather={actions.gather}
          onFiles={() => add(piecesOfFiles(items))}
          onReel={(id) => void fromReel(id)}
        />
      </div>
      <LongList label="Pieces" items={montage.pieces} keyOf={(piece) => piece.id} height={49}>
        {(piece, index) => (
          <PieceRow
            desk={desk}
            piece={piece}
            index={index}
            count={used.get(piece.id) ?? 0}
            open={chosen === piece.id}
            onChoose={onChoose}
            onMoveFrom={move}
          />
        )}
      </LongList>
      {montage.pieces.length === 0 && !gathering && (
        <p className="text-muted">Bring in pieces: the best of the footage, a reel, or whole files.</p>
      )}
    </>
  );
}

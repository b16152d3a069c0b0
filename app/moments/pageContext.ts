import type { Hit } from '#core/ask';
import type { Footage, Moment, SceneCell, Silence } from '#core/moments';
import type { Range, StringOut } from '#core/time';
import type { FootagePlayer } from '../player/useFootagePlayer';
import type { PageState } from './model/address';
import type { useMarks } from './model/useMarks';
import type { Notes } from './model/useNotes';

/** What actions on the page look at and change. Times are the string's unless said otherwise. */
export interface PageContext {
  state: PageState;
  change(next: Partial<PageState>): void;
  string: StringOut;
  player: FootagePlayer;
  marks: Pick<ReturnType<typeof useMarks>, 'marked' | 'setMarked' | 'setSelected'>;
  notes: Notes;
  footage: readonly Footage[];
  /** Moments where they stand in the string. */
  placed: readonly { range: Range; moment: Moment }[];
  /** Scenes on show, and the one under the playhead. */
  cells: readonly SceneCell[];
  cell: SceneCell | null;
  /** By file, in its time; and the one under the playhead. */
  silences: ReadonlyMap<string, readonly Silence[]>;
  silenceHere: Silence | null;
  hits: readonly Hit[];
  /** The playhead, in its file. */
  place: { index: number; id: string; seconds: number } | null;
  acting: Range | null;
  actingPieces: readonly (Range & { id: string })[];
  nameOf(id: string): string;
  lengthOf(id: string): number;
  /** The keys go to the page. */
  onPage(): void;
  /** The note of this marker is to be written. */
  onWrite(marker: string): void;
}

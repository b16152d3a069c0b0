import { ExternalLink, ThumbsDown, ThumbsUp } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { captionFonts, shownText, wordColour } from '#core/captions';
import { captionTracks, type ReelTexts } from '#core/formats';
import { cropWidth, pathAt } from '#core/framing';
import { mainTrack, reelFrames, type Reel } from '#core/reel';
import { framesToSeconds, formatClock } from '#core/time';
import type { Thumb } from '#core/shorts';
import type { Word } from '#core/words';
import type { ShortSetData } from '#usecases/shorts';
import type { Item } from '#usecases/projects';
import { Movable } from '../hands/Movable';
import { useLandingRoom } from '../hands/useLandingRoom';
import { ContextMenu } from '../ui/ContextMenu';
import { IconButton } from '../ui/controls';
import { playedAddress } from '../player/playedAddress';

export type ShownShort = ShortSetData['shorts'][number];

interface CardsProps {
  shorts: readonly ShownShort[];
  chosen: string;
  /** The reel of the chosen one as it is under one's hands. */
  live: Reel | null;
  item: Item | null;
  words: readonly Word[];
  /** What captions show besides them. */
  beside: Partial<ReelTexts>;
  thumbs: Record<string, Thumb>;
  projectId: string;
  onChoose(id: string): void;
  onThumb(id: string, thumb: Thumb | null): void;
  /** One to the place of another. */
  onMove(id: string, before: string): void;
  /** Of the chosen one. */
  onRename(name: string): void;
}

/** The shorts side by side, framed and captioned as they will be. */
export function ShortCards({
  shorts,
  chosen,
  live,
  item,
  words,
  beside,
  thumbs,
  projectId,
  onChoose,
  onThumb,
  onMove,
  onRename,
}: CardsProps) {
  const row = useRef<HTMLUListElement>(null);
  useLandingRoom(row, 'short');
  const navigate = useNavigate();
  const [naming, setNaming] = useState<string | null>(null);
  return (
    <ContextMenu
      label="What can be done with the short"
      entriesAt={(target) => {
        const short = shorts.find(({ id }) => id === target.closest<HTMLElement>('[data-short]')?.dataset.short);
        if (!short) return [];
        onChoose(short.id);
        const at = shorts.indexOf(short);
        return [
          { command: 'thumbUp' },
          { command: 'thumbDown' },
          'line',
          { label: 'Type another title', act: () => setNaming(short.id) },
          { label: 'One place earlier', isOff: at === 0, act: () => onMove(short.id, shorts[at - 1]!.id) },
          {
            label: 'One place later',
            isOff: at === shorts.length - 1,
            act: () => onMove(short.id, shorts[at + 2]?.id ?? ''),
          },
          'line',
          { label: 'Open as a reel', act: () => void navigate(`/projects/${projectId}/reels/${short.reelId}`) },
        ];
      }}
    >
      <ul ref={row} className="flex gap-[18px] overflow-x-auto px-4 pb-3 pt-1" aria-label="Shorts">
        {shorts.map((short, index) => {
          const reel = short.id === chosen && live ? live : short.reel.document;
          const thumb = thumbs[short.id] ?? null;
          // A name goes to the reel that is under one's hands, and choosing takes a moment.
          const isNaming = naming === short.id && short.id === chosen;
          const parts = `score ${Math.round(short.score)} · ${short.reason.charAt(0).toLowerCase()}${short.reason.slice(1)}`;
          return (
            <Movable
              as="li"
              key={short.id}
              className="w-[150px] shrink-0"
              data-short={short.id}
              data-chosen={short.id === chosen}
              kind="short"
              id={short.id}
              along="row"
              onLand={(moved, { side }) => {
                const before = side === 'before' ? short.id : (shorts[index + 1]?.id ?? '');
                if (before !== moved) onMove(moved, before);
              }}
            >
              <button
                type="button"
                className="block w-full text-left"
                aria-pressed={short.id === chosen}
                aria-label={`Short ${index + 1}: ${reel.name}`}
                onClick={() => onChoose(short.id)}
                onKeyDown={(event) => {
                  const other = event.altKey
                    ? (shorts[index + (event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 2 : NaN)] ??
                      (event.key === 'ArrowRight' && index === shorts.length - 2 ? { id: '' } : null))
                    : null;
                  if (other) {
                    event.preventDefault();
                    event.stopPropagation();
                    onMove(short.id, other.id);
                  }
                }}
              >
                <CardPicture reel={reel} item={item} words={words} beside={beside} chosen={short.id === chosen} />
                {!isNaming && (
                  <span
                    className="mt-2 block truncate font-semibold"
                    title={`${reel.name}. Double-click to type another title`}
                    onDoubleClick={() => setNaming(short.id)}
                  >
                    {reel.name}
                  </span>
                )}
              </button>
              {isNaming && (
                <TitleField
                  title={reel.name}
                  onTitle={(title) => {
                    setNaming(null);
                    if (title && title !== reel.name) onRename(title);
                  }}
                />
              )}
              <p className="line-clamp-2 min-h-8 text-xs leading-4 text-muted" title={parts}>
                {parts}
              </p>
              <span className="mt-0.5 flex items-center">
                <IconButton
                  label={thumb === 'up' ? 'Undo “More like this”' : 'More like this'}
                  aria-pressed={thumb === 'up'}
                  className={thumb === 'up' ? '!text-lampline' : '!text-muted hover:!text-text'}
                  onClick={() => onThumb(short.id, thumb === 'up' ? null : 'up')}
                >
                  <ThumbsUp size={15} fill={thumb === 'up' ? 'currentColor' : 'none'} />
                </IconButton>
                <IconButton
                  label="Not this; another one comes up"
                  className="!text-muted hover:!text-text"
                  onClick={() => onThumb(short.id, 'down')}
                >
                  <ThumbsDown size={15} />
                </IconButton>
                <Link
                  to={`/projects/${projectId}/reels/${short.reelId}`}
                  className="ml-auto inline-flex h-7 w-7 items-center justify-center rounded-md text-muted hover:bg-line/60 hover:text-text"
                  title="Open it as a reel"
                  aria-label={`Open “${reel.name}” as a reel`}
                >
                  <ExternalLink size={15} />
                </Link>
              </span>
            </Movable>
          );
        })}
      </ul>
    </ContextMenu>
  );
}

/** The title of a short as it is typed; Enter or leaving it takes it, Escape does not. */
function TitleField({ title, onTitle }: { title: string; onTitle(title: string | null): void }) {
  const [typed, setTyped] = useState(title);
  return (
    <input
      aria-label="Title of the short"
      className="mt-2 block h-5 w-full rounded bg-line px-1 font-semibold"
      value={typed}
      maxLength={120}
      ref={(field) => field?.focus()}
      onChange={(event) => setTyped(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') onTitle(null);
      }}
      onBlur={() => onTitle(typed.trim())}
    />
  );
}

/** The first pictures of a short through its crop; it plays under the pointer. */
function CardPicture({
  reel,
  item,
  words,
  beside,
  chosen,
}: {
  reel: Reel;
  item: Item | null;
  words: readonly Word[];
  beside: Partial<ReelTexts>;
  chosen: boolean;
}) {
  const video = useRef<HTMLVideoElement>(null);
  const [over, setOver] = useState(false);
  const clip = mainTrack(reel).items.find((each) => each.kind === 'clip');
  const start = clip ? framesToSeconds(clip.sourceIn, reel.rate) : 0;
  const style = reel.captions;
  const line = useMemo(() => {
    const lines = captionTracks(reel, { wordsOf: () => words, ...beside }).find(({ follows }) => follows)?.lines ?? [];
    // The line with the most to show, among the first.
    return lines.slice(0, 3).sort((a, b) => b.words.length - a.words.length)[0] ?? null;
  }, [reel, words, beside]);
  const shown =
    line && clip ? Math.max(start, start + line.words[Math.floor(line.words.length / 2)]!.start) : start + 0.6;
  useEffect(() => {
    const element = video.current;
    if (!element) return;
    if (over) {
      element.currentTime = start;
      void element.play().catch(() => undefined);
    } else {
      element.pause();
      element.currentTime = shown;
    }
  }, [over, start, shown]);
  if (!clip || !item?.probe)
    return (
      <span
        className="block w-full rounded-md bg-raised"
        style={{ aspectRatio: `${reel.size.width} / ${reel.size.height}` }}
      />
    );
  const source = { width: item.probe.width, height: item.probe.height };
  const fills = (clip.fit ?? reel.fit) === 'fill';
  const at = clip.framing ? pathAt(clip.framing.path, shown) : { x: 0.5, y: 0.5 };
  const width = cropWidth(source, reel.size, 1);
  const place = (middle: number, extent: number) =>
    extent >= 1 ? 50 : ((Math.min(1 - extent / 2, Math.max(extent / 2, middle)) - extent / 2) / (1 - extent)) * 100;
  const height = (width * source.width * reel.size.height) / (reel.size.width * source.height);
  const lit = line ? Math.floor(line.words.length / 2) : -1;
  return (
    <span
      className={`relative block overflow-hidden rounded-md bg-black ${chosen ? 'outline outline-2 outline-offset-2 outline-text' : ''}`}
      style={{ aspectRatio: `${reel.size.width} / ${reel.size.height}` }}
      onPointerEnter={() => setOver(true)}
      onPointerLeave={() => setOver(false)}
    >
      <video
        ref={video}
        src={`${playedAddress(item)}#t=${shown.toFixed(2)}`}
        muted
        playsInline
        preload="metadata"
        className="h-full w-full"
        style={{
          objectFit: fills ? 'cover' : 'contain',
          objectPosition: `${place(at.x, width)}% ${place(at.y, height)}%`,
        }}
        aria-hidden
        tabIndex={-1}
      />
      <span className="tabular absolute right-1.5 top-1.5 rounded bg-black/75 px-1 text-[13px]">
        {formatClock(framesToSeconds(reelFrames(reel), reel.rate))}
      </span>
      {style && line && (
        <span
          className="absolute inset-x-1.5 -translate-y-1/2 text-center leading-tight"
          style={{
            top: `${style.place * 100}%`,
            fontFamily: `"${captionFonts[style.font].family}"`,
            fontWeight: captionFonts[style.font].weight,
            fontSize: Math.min(15, style.size * 1.9),
            color: style.colour,
            textShadow: style.box ? undefined : `0 0 3px ${style.outline}, 0 1px 3px ${style.outline}`,
          }}
          aria-hidden
        >
          <span
            style={
              style.box
                ? { background: style.box, padding: '2px 5px', borderRadius: 3, boxDecorationBreak: 'clone' }
                : undefined
            }
          >
            {line.words.map((word, index) => (
              <span key={index}>
                <span style={{ color: wordColour(style, index === lit, word) }}>{shownText(word.text, style)}</span>
                {index === line.firstRow - 1 && line.firstRow < line.words.length ? <br /> : ' '}
              </span>
            ))}
          </span>
        </span>
      )}
    </span>
  );
}

import { framesPerSecond } from '#core/time';
import type { ReelCommand } from './commands';
import { reelFrames, type HouseStyle, type Reel, type Title } from './types';

/** Dresses a reel in a house style, as one edit: what it had of captions, logo and titles gives way. @param newId for its titles */
export function dressInStyle(reel: Reel, style: HouseStyle, name: string, newId: () => string): ReelCommand {
  const total = reelFrames(reel);
  const frames = (seconds: number) => Math.max(2, Math.min(total, Math.round(seconds * framesPerSecond(reel.rate))));
  const titles: Title[] = [
    ...(style.opening
      ? [
          {
            id: newId(),
            kind: 'opening' as const,
            frame: 0,
            frames: frames(style.opening.seconds),
            text: style.opening.text.replaceAll('{title}', reel.name),
          },
        ]
      : []),
    ...(style.lower
      ? [
          {
            id: newId(),
            kind: 'lower' as const,
            frame: Math.min(Math.max(0, total - 2), style.opening ? frames(style.opening.seconds) : frames(0.6)),
            frames: frames(style.lower.seconds),
            text: style.lower.text.replaceAll('{title}', reel.name),
            ...(style.lower.sub ? { sub: style.lower.sub } : {}),
          },
        ]
      : []),
    ...(style.end
      ? [
          {
            id: newId(),
            kind: 'end' as const,
            frame: Math.max(0, total - frames(style.end.seconds)),
            frames: frames(style.end.seconds),
            text: style.end.text.replaceAll('{title}', reel.name),
            ...(style.end.sub ? { sub: style.end.sub } : {}),
          },
        ]
      : []),
  ];
  return {
    type: 'several',
    name: `dressed it in “${name}”`,
    commands: [
      ...(style.theme !== (reel.theme ?? null) ? [{ type: 'theme' as const, theme: style.theme }] : []),
      { type: 'captions', style: style.captions },
      ...(style.logo || reel.logo ? [{ type: 'logo' as const, logo: style.logo }] : []),
      ...(reel.titles ?? []).map(({ id }) => ({ type: 'removeTitle' as const, id })),
      ...titles.map((title) => ({ type: 'title' as const, title })),
    ],
  };
}

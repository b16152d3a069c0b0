import { defaultLimits, defaultMix, defaultPieceLength, ingredientNames } from '#core/moments';
import { Button, Slider } from '../ui/controls';
import type { Settings } from '../workers/protocol';
import { colours } from './drawLine';
import { ingredientLooks } from './WhyPanel';

/** Weights, limits and piece length; every move is followed at once. */
export function MixPanel({ settings, onChange }: { settings: Settings; onChange(settings: Settings): void }) {
  const { mix, limits, piece } = settings;
  const setLimit = (change: Partial<Settings['limits']>) => onChange({ ...settings, limits: { ...limits, ...change } });
  const setPiece = (change: Partial<Settings['piece']>) => {
    const next = { ...piece, ...change };
    onChange({ ...settings, piece: { ...next, preferredSeconds: Math.min(Math.max(next.preferredSeconds, next.minSeconds), next.maxSeconds) } });
  };
  return (
    <div>
      <h2 className="text-xs text-muted">What counts</h2>
      {ingredientNames.map((name) => (
        <Slider key={name} label={ingredientLooks[name].label} colour={ingredientLooks[name].colour} value={mix[name]} max={100} shown={String(mix[name])} onChange={(value) => onChange({ ...settings, mix: { ...mix, [name]: value } })} />
      ))}
      <h2 className="mt-3 text-xs text-muted">What is shut out</h2>
      <Slider label="Shake over" colour={colours.shake} value={limits.shake} max={1} step={0.01} shown={limits.shake >= 1 ? 'off' : `${Math.round(limits.shake * 100)}`} hint="100 is a wander of 2 % of the picture width" onChange={(shake) => setLimit({ shake })} />
      <Slider label="Sharpness under" colour={colours.muted} value={limits.blur} max={0.9} step={0.01} shown={limits.blur <= 0 ? 'off' : `${Math.round(limits.blur * 100)}`} hint="A picture in focus reads 60 to 100" onChange={(blur) => setLimit({ blur })} />
      <Slider label="Light under" colour={colours.muted} value={limits.dark} max={0.8} step={0.01} shown={limits.dark <= 0 ? 'off' : `${Math.round(limits.dark * 100)}`} hint="100 is well lit" onChange={(dark) => setLimit({ dark })} />
      <label className="flex items-center justify-between py-1.5">Standing pictures<input type="checkbox" className="h-4 w-4 accent-[#9fabb2]" checked={limits.frozen} onChange={(event) => setLimit({ frozen: event.target.checked })} /></label>
      <label className="flex items-center justify-between py-1.5">Whip pans<input type="checkbox" className="h-4 w-4 accent-[#9fabb2]" checked={limits.whips ?? false} onChange={(event) => setLimit({ whips: event.target.checked })} /></label>
      <h2 className="mt-3 text-xs text-muted">Length of a piece</h2>
      <Slider label="Preferred" colour={colours.muted} value={piece.preferredSeconds} min={1} max={30} step={0.5} shown={`${piece.preferredSeconds} s`} onChange={(preferredSeconds) => setPiece({ preferredSeconds })} />
      <Slider label="At least" colour={colours.muted} value={piece.minSeconds} min={0.5} max={10} step={0.5} shown={`${piece.minSeconds} s`} onChange={(minSeconds) => setPiece({ minSeconds, maxSeconds: Math.max(piece.maxSeconds, minSeconds + 1) })} />
      <Slider label="At most" colour={colours.muted} value={piece.maxSeconds} min={2} max={60} step={1} shown={`${piece.maxSeconds} s`} onChange={(maxSeconds) => setPiece({ maxSeconds, minSeconds: Math.min(piece.minSeconds, maxSeconds - 1) })} />
      <Button className="mt-3" onClick={() => onChange({ mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength })}>Back to the usual mix</Button>
    </div>
  );
}

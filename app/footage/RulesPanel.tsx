import { upTo, decimal } from '#core/sentences';
import type { ReadingRules } from '#core/readings';
import { Slider } from '../ui/controls';
import { colours } from '../drawing/inks';

interface RulesProps {
  rules: ReadingRules;
  onChange(rules: ReadingRules): void;
}

const percent = (value: number) => String(Math.round(value * 100));
const time = (value: number) => `${upTo(value, 2)} s`;
/** What the level of silence is first set to by hand, in dB. */
const usualSilenceDb = -45;

/** The sensitivities of the readings; every move is followed at once. */
export const RulesPanel = (props: RulesProps) => (
  <div>
    <PictureRules {...props} />
    <SpeechRules {...props} />
    <SilenceRules {...props} />
  </div>
);

function PictureRules({ rules, onChange }: RulesProps) {
  const { camera } = rules;
  const setCamera = (change: Partial<typeof camera>) => onChange({ ...rules, camera: { ...camera, ...change } });
  return (
    <>
      <h2 className="text-xs text-muted">Picture</h2>
      <Slider
        label="Scene changes"
        colour={colours.text}
        value={rules.sceneSensitivity}
        max={1}
        step={0.01}
        shown={percent(rules.sceneSensitivity)}
        hint="100 finds the faintest cut and dissolve"
        onChange={(sceneSensitivity) => onChange({ ...rules, sceneSensitivity })}
      />
      <Slider
        label="Shaky from"
        colour={colours.shake}
        value={camera.shakyFrom}
        max={1}
        step={0.01}
        shown={percent(camera.shakyFrom)}
        hint="Shake under this is let through; 100 is 2 % of the picture width"
        onChange={(shakyFrom) => setCamera({ shakyFrom })}
      />
      <Slider
        label="Shaky edges"
        colour={colours.shake}
        value={camera.padSeconds}
        max={1}
        step={0.05}
        shown={time(camera.padSeconds)}
        hint="Added before and after a shaky run, so that cuts are clean"
        onChange={(padSeconds) => setCamera({ padSeconds })}
      />
      <Slider
        label="Moves from"
        colour={colours.camera}
        value={camera.movesFrom}
        max={0.2}
        step={0.002}
        shown={`${decimal(camera.movesFrom * 100, 1)} %`}
        hint="Picture widths a second from which the camera moves rather than stands"
        onChange={(movesFrom) => setCamera({ movesFrom })}
      />
      <Slider
        label="Whip pan from"
        colour={colours.camera}
        value={camera.whipFrom}
        min={0.3}
        max={3}
        step={0.05}
        shown={decimal(camera.whipFrom, 2)}
        hint="Picture widths a second"
        onChange={(whipFrom) => setCamera({ whipFrom })}
      />
      <Slider
        label="Blurred under"
        colour={colours.muted}
        value={rules.blurredBelow}
        max={0.8}
        step={0.01}
        shown={percent(rules.blurredBelow)}
        hint="A picture in focus reads 60 to 100"
        onChange={(blurredBelow) => onChange({ ...rules, blurredBelow })}
      />
      <Slider
        label="Black under"
        colour={colours.muted}
        value={rules.blackBelow}
        max={0.3}
        step={0.005}
        shown={percent(rules.blackBelow)}
        hint="Mean light of the picture"
        onChange={(blackBelow) => onChange({ ...rules, blackBelow })}
      />
    </>
  );
}

function SpeechRules({ rules, onChange }: RulesProps) {
  const { speech } = rules;
  const set = (change: Partial<typeof speech>) => onChange({ ...rules, speech: { ...speech, ...change } });
  return (
    <>
      <h2 className="mt-3 text-xs text-muted">Speech</h2>
      <Slider
        label="Voice from"
        colour={colours.speech}
        value={speech.enter}
        min={0.1}
        max={0.95}
        step={0.01}
        shown={percent(speech.enter)}
        hint="How sure it must be that somebody speaks"
        onChange={(enter) => set({ enter, stay: Math.min(speech.stay, Math.max(0.05, enter - 0.1)) })}
      />
      <Slider
        label="Shortest"
        colour={colours.speech}
        value={speech.minSpeechSeconds}
        max={2}
        step={0.05}
        shown={time(speech.minSpeechSeconds)}
        onChange={(minSpeechSeconds) => set({ minSpeechSeconds })}
      />
      <Slider
        label="Bridge pauses"
        colour={colours.speech}
        value={speech.minPauseSeconds}
        max={2}
        step={0.05}
        shown={time(speech.minPauseSeconds)}
        hint="Shorter pauses do not end a run"
        onChange={(minPauseSeconds) => set({ minPauseSeconds })}
      />
      <Slider
        label="Breath"
        colour={colours.speech}
        value={speech.padSeconds}
        max={1}
        step={0.01}
        shown={time(speech.padSeconds)}
        hint="Added at both ends"
        onChange={(padSeconds) => set({ padSeconds })}
      />
    </>
  );
}

function SilenceRules({ rules, onChange }: RulesProps) {
  const { silence } = rules;
  const suggested = silence.thresholdDb === 'suggested';
  const set = (change: Partial<typeof silence>) => onChange({ ...rules, silence: { ...silence, ...change } });
  return (
    <>
      <h2 className="mt-3 text-xs text-muted">Silence</h2>
      <label className="flex items-center justify-between py-1.5">
        Level from the room's noise
        <input
          type="checkbox"
          className="h-4 w-4 accent-muted"
          checked={suggested}
          onChange={(event) => set({ thresholdDb: event.target.checked ? 'suggested' : usualSilenceDb })}
        />
      </label>
      {!suggested && (
        <Slider
          label="Level under"
          colour={colours.muted}
          value={silence.thresholdDb as number}
          min={-80}
          max={-10}
          step={1}
          shown={`${silence.thresholdDb} dB`}
          onChange={(thresholdDb) => set({ thresholdDb })}
        />
      )}
      <Slider
        label="At least"
        colour={colours.muted}
        value={silence.minSeconds}
        min={0.1}
        max={5}
        step={0.1}
        shown={time(silence.minSeconds)}
        onChange={(minSeconds) => set({ minSeconds })}
      />
      <Slider
        label="Padding"
        colour={colours.muted}
        value={silence.padSeconds}
        max={1}
        step={0.05}
        shown={time(silence.padSeconds)}
        hint="So that a breath survives"
        onChange={(padSeconds) => set({ padSeconds })}
      />
    </>
  );
}

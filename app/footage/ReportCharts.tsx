import { Area, AreaChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { decimal } from '#core/sentences';
import type { DisplayTraceName, Run, RunKind } from '#core/readings';
import { formatClock } from '#core/time';
import { colours } from '../drawing/inks';

const lanes: { label: string; kinds: RunKind[]; colour: string }[] = [
  { label: 'Scenes', kinds: ['scene', 'dissolve', 'fade', 'flash'], colour: colours.text },
  { label: 'Camera', kinds: ['smooth', 'whip'], colour: colours.camera },
  { label: 'Shaky', kinds: ['shaky'], colour: colours.shake },
  { label: 'Speech', kinds: ['speech'], colour: colours.speech },
  { label: 'Silence', kinds: ['silence'], colour: colours.muted },
  { label: 'Music', kinds: ['music'], colour: colours.sound },
  { label: 'Things', kinds: ['object'], colour: colours.motion },
  { label: 'Flaws', kinds: ['black', 'frozen', 'blurred', 'clipped', 'wind', 'unread'], colour: colours.muted },
];

/** Stretches of every kind on one time axis; scenes alternate in light, short events stand out by their height. */
export function RunLanes({ runs, seconds }: { runs: Run[]; seconds: number }) {
  return (
    <div className="mb-4 rounded-md border border-line p-3" role="img" aria-label="Runs over time">
      {lanes.map(({ label, kinds, colour }) => {
        const own = runs.filter((run) => kinds.includes(run.kind));
        return (
          <div key={label} className="flex items-center gap-3 py-0.5">
            <span className="w-16 shrink-0 text-xs text-muted">{label}</span>
            <div className="relative h-3 flex-1 rounded-sm bg-raised">
              {own.map((run, index) => (
                <span
                  key={`${run.kind}${run.start}`}
                  title={`${run.kind}${run.label ? ` ${run.label}` : ''}, ${formatClock(run.start, true)} – ${formatClock(run.end, true)}${run.amount === undefined ? '' : `, ${decimal(run.amount, 2)}`}`}
                  className="absolute inset-y-0 rounded-[2px]"
                  style={{
                    left: `${(run.start / seconds) * 100}%`,
                    width: `max(2px, calc(${((run.end - run.start) / seconds) * 100}% - 1px))`,
                    background: colour,
                    opacity: run.kind === 'scene' ? (index % 2 ? 0.18 : 0.32) : run.kind === 'unread' ? 0.25 : 0.85,
                  }}
                />
              ))}
            </div>
          </div>
        );
      })}
    </div>
  );
}

interface Shown {
  name: DisplayTraceName;
  label: string;
  says: string;
  colour: string;
  needs: 'picture' | 'sound';
  domain?: [number, number | 'auto'];
}
const shown: Shown[] = [
  { name: 'faces', label: 'Faces', says: 'how many', colour: colours.faces, needs: 'picture', domain: [0, 'auto'] },
  { name: 'faceArea', label: 'Face area', says: 'share of the picture', colour: colours.faces, needs: 'picture' },
  { name: 'smile', label: 'Smile', says: 'strongest smile', colour: colours.faces, needs: 'picture' },
  { name: 'motion', label: 'Motion', says: 'of things, not the camera', colour: colours.motion, needs: 'picture' },
  {
    name: 'moves',
    label: 'Camera moves',
    says: 'speed of the intended path',
    colour: colours.camera,
    needs: 'picture',
  },
  { name: 'shake', label: 'Shake', says: '1 is 2 % of the width', colour: colours.shake, needs: 'picture' },
  { name: 'sharpness', label: 'Sharpness', says: 'in focus over 0.6', colour: colours.text, needs: 'picture' },
  { name: 'exposure', label: 'Light', says: '1 is well lit', colour: colours.text, needs: 'picture' },
  { name: 'noise', label: 'Noise', says: '0 is clean', colour: colours.muted, needs: 'picture' },
  {
    name: 'loudness',
    label: 'Loudness',
    says: 'momentary, LUFS',
    colour: colours.sound,
    needs: 'sound',
    domain: [-70, 0],
  },
  { name: 'bursts', label: 'Loud moments', says: 'cheers, laughs, bangs', colour: colours.sound, needs: 'sound' },
  { name: 'speech', label: 'Speech', says: 'somebody speaks', colour: colours.speech, needs: 'sound' },
];

/** Every trace over time, each with its own scale. */
export function TraceCharts({
  traces,
  seconds,
  hasPicture,
  hasSound,
}: {
  traces: Record<DisplayTraceName, number[]>;
  seconds: number;
  hasPicture: boolean;
  hasSound: boolean;
}) {
  const of = (name: DisplayTraceName) =>
    traces[name].map((value, index) => ({ time: (index / traces[name].length) * seconds, value }));
  return (
    <div className="grid grid-cols-1 gap-x-6 gap-y-3 xl:grid-cols-2 [@media(min-width:1100px)]:grid-cols-2">
      {shown
        .filter(({ needs }) => (needs === 'picture' ? hasPicture : hasSound))
        .map(({ name, label, says, colour, domain }) => (
          <figure key={name}>
            <figcaption className="flex items-baseline gap-2">
              <span>{label}</span>
              <span className="text-xs text-muted">{says}</span>
            </figcaption>
            <ResponsiveContainer width="100%" height={64}>
              <AreaChart data={of(name)} margin={{ top: 4, right: 0, bottom: 0, left: 0 }}>
                <XAxis dataKey="time" type="number" domain={[0, seconds]} hide />
                <YAxis
                  domain={domain ?? [0, 1]}
                  allowDataOverflow
                  width={30}
                  tickCount={2}
                  tick={{ fill: colours.muted, fontSize: 11 }}
                  axisLine={false}
                  tickLine={false}
                />
                <Tooltip
                  cursor={{ stroke: colours.muted }}
                  contentStyle={{
                    background: colours.raised,
                    border: `1px solid ${colours.line}`,
                    borderRadius: 6,
                    fontSize: 12,
                    padding: '2px 8px',
                  }}
                  itemStyle={{ color: colours.text }}
                  labelFormatter={(time) => formatClock(Number(time), true)}
                  formatter={(value) => [decimal(Number(value), 2), label]}
                />
                <Area
                  dataKey="value"
                  type="linear"
                  stroke={colour}
                  fill={colour}
                  fillOpacity={0.28}
                  strokeWidth={1.2}
                  baseValue={name === 'loudness' ? -70 : 0}
                  isAnimationActive={false}
                  dot={false}
                />
              </AreaChart>
            </ResponsiveContainer>
          </figure>
        ))}
    </div>
  );
}

import { decimal } from '#core/sentences';
import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { formatClock } from '#core/time';
import { colours } from '../drawing/inks';
import type { MontageDesk } from './useMontage';

/** Energy of the music and how often the picture changes, over time. */
export function EnergyPanel({ desk }: { desk: MontageDesk }) {
  const { hearing, montage, time } = desk;
  const step = Math.max(1, Math.round(hearing.durationSeconds / 120));
  const points = Array.from({ length: Math.floor(hearing.durationSeconds / step) + 1 }, (_, index) => {
    const at = index * step;
    const energy = hearing.energy[Math.min(hearing.energy.length - 1, Math.round(at * 10))] ?? 0;
    const [from, to] = [at - 2, at + 2];
    const cuts = montage.slots.filter((slot) => slot.start > from && slot.start <= to).length;
    return { time: at, energy, cuts: (cuts / (to - from)) * 60 };
  });
  const lengths = montage.slots.map((slot) => slot.end - slot.start).sort((a, b) => a - b);
  const cutsPerMinute = lengths.length ? (lengths.length / (montage.span.end - montage.span.start || 1)) * 60 : 0;
  return (
    <figure>
      <figcaption className="mb-1 flex gap-4 text-xs text-muted">
        <span>
          <span className="mr-1 inline-block h-2 w-3 rounded-sm bg-sound/50" />
          energy of the music
        </span>
        <span>
          <span className="mr-1 inline-block h-0.5 w-3 bg-text align-middle" />
          cuts a minute
        </span>
      </figcaption>
      <div role="img" aria-label="Energy of the music and cuts a minute over time">
        <ResponsiveContainer width="100%" height={150}>
          <ComposedChart data={points} margin={{ top: 4, right: 0, bottom: 0, left: 0 }}>
            <XAxis
              dataKey="time"
              type="number"
              domain={[0, hearing.durationSeconds]}
              tickFormatter={(seconds: number) => formatClock(seconds)}
              tick={{ fill: colours.muted, fontSize: 11 }}
              stroke={colours.line}
            />
            <YAxis yAxisId="energy" hide domain={[0, 1]} />
            <YAxis
              yAxisId="cuts"
              orientation="right"
              width={34}
              domain={[0, 'auto']}
              tick={{ fill: colours.muted, fontSize: 11 }}
              stroke={colours.line}
            />
            <Tooltip
              contentStyle={{ background: colours.raised, border: `1px solid ${colours.line}`, fontSize: 12 }}
              labelFormatter={(seconds) => formatClock(Number(seconds), true)}
              formatter={(value, name) => [
                name === 'energy' ? `${Math.round(Number(value) * 100)} %` : Math.round(Number(value)),
                name === 'energy' ? 'energy' : 'cuts a minute',
              ]}
            />
            <Area
              yAxisId="energy"
              dataKey="energy"
              stroke={colours.sound}
              fill={colours.sound}
              fillOpacity={0.25}
              isAnimationActive={false}
            />
            <Line
              yAxisId="cuts"
              dataKey="cuts"
              type="step"
              stroke={colours.text}
              dot={false}
              isAnimationActive={false}
            />
            <ReferenceLine yAxisId="energy" x={time} stroke={colours.text} strokeOpacity={0.5} />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <p className="mt-2">
        {lengths.length} slots, {Math.round(cutsPerMinute)} cuts a minute. The shortest lasts{' '}
        {decimal(lengths[0] ?? 0, 2)} s, the longest {decimal(lengths.at(-1) ?? 0, 2)} s.
      </p>
      <ul className="mt-2 text-xs text-muted">
        {hearing.sections.map((section) => (
          <li key={section.start} className="flex justify-between py-0.5">
            <span>
              {section.name}
              {hearing.sections.filter((each) => each.letter === section.letter).length > 1
                ? `, sounds like ${hearing.sections
                    .filter((each) => each !== section && each.letter === section.letter)
                    .map((each) => `the ${each.name} at ${formatClock(each.start)}`)
                    .join(' and ')}`
                : ''}
            </span>
            <span className="tabular">
              {formatClock(section.start, true)} · energy {Math.round(section.energy * 100)} %
            </span>
          </li>
        ))}
      </ul>
    </figure>
  );
}

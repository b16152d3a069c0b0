import { soundRate, type OutputFormat, type Quality } from '#core/reel';

const x264: Record<Quality, [crf: string, preset: string]> = { draft: ['27', 'ultrafast'], good: ['20', 'veryfast'], best: ['16', 'medium'] };
const vp9: Record<Quality, [crf: string, speed: string]> = { draft: ['40', '8'], good: ['32', '5'], best: ['26', '3'] };

const encoders: Record<'mp4' | 'webm' | 'wav', readonly string[]> = { mp4: ['-c:a', 'aac', '-b:a', '192k'], webm: ['-c:a', 'libopus', '-b:a', '128k'], wav: ['-c:a', 'pcm_s16le'] };

/** How the sound of a format is encoded; its container can hold sound alone. */
export const soundEncoder = (format: OutputFormat): readonly string[] => ['-ar', String(soundRate), ...encoders[format === 'webm' || format === 'wav' ? format : 'mp4']];

/** Encoder and container of a finished file. MP4: H.264 High, yuv420p, AAC, index first. WebM: VP9, Opus. */
export function formatArguments(format: OutputFormat, quality: Quality, fps: string): string[] {
  const sound = ['-map', '[out]', ...soundEncoder(format)];
  switch (format) {
    case 'mp4': return ['-map', '[seen]', ...sound, '-c:v', 'libx264', '-profile:v', 'high', '-preset', x264[quality][1], '-crf', x264[quality][0], '-pix_fmt', 'yuv420p', '-r', fps, '-movflags', '+faststart', '-f', 'mp4'];
    case 'webm': return ['-map', '[seen]', ...sound, '-c:v', 'libvpx-vp9', '-crf', vp9[quality][0], '-b:v', '0', '-deadline', 'good', '-cpu-used', vp9[quality][1], '-row-mt', '1', '-threads', '4', '-pix_fmt', 'yuv420p', '-r', fps, '-f', 'webm'];
    case 'gif': return ['-map', '[seen]', '-loop', '0', '-f', 'gif'];
    case 'wav': return [...sound, '-f', 'wav'];
    case 'png': return ['-map', '[seen]', '-frames:v', '1', '-c:v', 'png', '-f', 'image2', '-update', '1'];
  }
}

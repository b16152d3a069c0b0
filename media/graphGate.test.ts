import { join } from 'node:path';
import { tmpdir } from 'node:os';
import { describe, expect, it } from 'vitest';
import { checkGraph, checkGraphs } from './graphGate';
import { escaped } from './process';

describe('graphs for ffmpeg', () => {
  it.each([
    'scale=64:64:flags=area,format=gray',
    "[0:v:0]split=3[a][b];[a]crop=w=min(iw\\,ih):h=10[x];[x][b]overlay=x=(W-w)/2:y='if(gt(t,1),0,10)'[out]",
    `lut3d=file=${escaped(join(tmpdir(), "bright-reel 'a':b.cube"))}:interp=trilinear`,
    'color=black:s=16x16:r=25/1,trim=end_frame=10,setsar=1[v]',
    'fade=t=in:start_frame=0:nb_frames=3:color=black',
    'idet,metadata=print:file=-',
  ])('are let through: %s', (graph) => expect(() => checkGraph(graph)).not.toThrow());

  // ffmpeg-filters(1): filters that open files, run commands or listen, and ways to smuggle them in.
  it.each([
    'movie=/etc/passwd',
    'null[a];amovie=/etc/passwd[b]',
    'scale=64:64,drawtext=textfile=/etc/passwd',
    "colorchannelmixer=aa=0.5[l];movie='/etc/passwd'[x]",
    'sendcmd=f=/etc/passwd',
    'azmq',
    'lut3d=file=/etc/passwd',
    'lut3d=/etc/passwd',
    "ass=filename='/etc/passwd'",
    'ass=/proc/self/environ',
    'null,movie@x=/etc/passwd',
    'frei0r=x',
    'ladspa=file=/tmp/evil.so',
    'metadata=print:file=/etc/cron.d/evil',
    'volume=1,asendcmd=c=x',
  ])('are refused: %s', (graph) =>
    expect(() => checkGraph(graph)).toThrow(/no filter that is used|names a file elsewhere|opens no file/),
  );

  it('and sources that are made up pass the same gate; files that happen to be called so do not', () => {
    expect(() => checkGraphs(['-f', 'lavfi', '-i', 'movie=/etc/passwd'])).toThrow();
    expect(() => checkGraphs(['-vf', 'movie=/etc/passwd', '-f', 'null', '-'])).toThrow();
    expect(() => checkGraphs(['-f', 'lavfi', '-i', 'sine=d=1', '-i', 'movie=x.mp4'])).not.toThrow();
  });
});

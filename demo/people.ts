import type { SKRSContext2D } from '@napi-rs/canvas';

/** Looks of one drawn person. Sizes are in face units: one unit is the face height / 1.75. */
export interface Character {
  name: string;
  skin: [light: string, base: string, shade: string];
  hair: string;
  hairStyle: 'bob' | 'crop' | 'long' | 'bald' | 'curly' | 'bun';
  iris: string;
  lips: string;
  shirt: [light: string, dark: string];
  faceWidth: number;
  jaw: number;
  glasses?: boolean;
  moustache?: string;
  hat?: string;
}

/** What a person does in one frame. `turn` is -1 (left) to 1 (right); the others 0 to 1. */
export interface Pose {
  mouth?: number;
  smile?: number;
  blink?: number;
  turn?: number;
  nod?: number;
  wave?: number;
}

export const cast = {
  presenter: {
    name: 'Presenter',
    skin: ['#a86f4a', '#8a5535', '#5a3420'],
    hair: '#16110f',
    hairStyle: 'crop',
    iris: '#3b2314',
    lips: '#7d3c35',
    shirt: ['#e8982c', '#a8640f'],
    faceWidth: 0.78,
    jaw: 0.66,
  },
  builder: {
    name: 'Builder',
    skin: ['#fbe0cd', '#eec0a2', '#bf8a6a'],
    hair: '#1d1a22',
    hairStyle: 'bob',
    iris: '#4c6a45',
    lips: '#b8484f',
    shirt: ['#cf5168', '#8a2c44'],
    faceWidth: 0.72,
    jaw: 0.52,
    glasses: true,
  },
  captain: {
    name: 'Captain',
    skin: ['#ffd9c2', '#f0b796', '#b97f62'],
    hair: '#b9bcc0',
    hairStyle: 'bald',
    iris: '#4c7fb2',
    lips: '#b5665c',
    shirt: ['#6f8a55', '#425a33'],
    faceWidth: 0.8,
    jaw: 0.74,
    moustache: '#b4b8bb',
  },
  rower: {
    name: 'Rower',
    skin: ['#f7d3b4', '#e2b08a', '#a9764f'],
    hair: '#7a4020',
    hairStyle: 'long',
    iris: '#6a4a2a',
    lips: '#c25b5b',
    shirt: ['#3c9c9b', '#1f6466'],
    faceWidth: 0.7,
    jaw: 0.54,
  },
  neighbour: {
    name: 'Neighbour',
    skin: ['#c98f63', '#b0744a', '#74472a'],
    hair: '#2a1b12',
    hairStyle: 'curly',
    iris: '#40301c',
    lips: '#99504a',
    shirt: ['#7f6cc9', '#4d3f8a'],
    faceWidth: 0.74,
    jaw: 0.6,
  },
  child: {
    name: 'Child',
    skin: ['#ffe2cf', '#f5c8a9', '#cf9875'],
    hair: '#d8a94a',
    hairStyle: 'bun',
    iris: '#3f77a8',
    lips: '#cf6a68',
    shirt: ['#d9534a', '#97302b'],
    faceWidth: 0.76,
    jaw: 0.64,
    hat: '#c8322e',
  },
} satisfies Record<string, Character>;

/**
 * Draws head, neck, shoulders and arms. (x, y) is the middle of the face; `unit` the face unit in pixels.
 * Features are mapped through an ellipsoid, so that `turn` moves them as a turning head does.
 */
export function drawPerson(
  context: SKRSContext2D,
  who: Character,
  x: number,
  y: number,
  unit: number,
  pose: Pose = {},
) {
  context.save();
  context.translate(x, y + (pose.nod ?? 0) * unit * 0.06);
  context.scale(unit, unit);
  drawBody(context, who, pose);
  const turn = (pose.turn ?? 0) * 0.45;
  const place = (px: number, py: number): [number, number] => {
    const depth = Math.sqrt(Math.max(0.05, 1 - (px / 0.95) ** 2 - (py / 1.5) ** 2));
    return [px * Math.cos(turn) + depth * Math.sin(turn) * 0.8, py];
  };
  drawHairBehind(context, who);
  drawHead(context, who, turn);
  drawFeatures(context, who, pose, place, turn);
  drawHairFront(context, who, turn);
  context.restore();
}

function drawBody(context: SKRSContext2D, who: Character, pose: Pose) {
  const [light, base, shade] = who.skin;
  const shirt = context.createRadialGradient(-0.7, 2, 0.2, 0.2, 3, 3.4);
  shirt.addColorStop(0, who.shirt[0]);
  shirt.addColorStop(1, who.shirt[1]);
  const arm = (side: number, lift: number) => {
    context.save();
    context.translate(side * 1.55, 1.95);
    context.rotate(side * (-0.14 - lift * 2.5));
    context.fillStyle = shirt;
    context.beginPath();
    context.roundRect(-0.38, -0.25, 0.76, 2.1, 0.36);
    context.fill();
    context.fillStyle = base;
    context.beginPath();
    context.roundRect(-0.24, 1.7, 0.48, 1.9, 0.24);
    context.fill();
    context.restore();
  };
  arm(-1, 0);
  arm(1, pose.wave ?? 0);
  context.fillStyle = shirt;
  context.beginPath();
  context.moveTo(-0.42, 1.25);
  context.bezierCurveTo(-1.1, 1.5, -1.85, 1.5, -1.95, 2.4);
  context.lineTo(-1.75, 14);
  context.lineTo(1.75, 14);
  context.lineTo(1.95, 2.4);
  context.bezierCurveTo(1.85, 1.5, 1.1, 1.5, 0.42, 1.25);
  context.fill();
  const neck = context.createLinearGradient(0, 0.7, 0, 1.7);
  neck.addColorStop(0, shade);
  neck.addColorStop(0.6, base);
  neck.addColorStop(1, light);
  context.fillStyle = neck;
  context.beginPath();
  context.moveTo(-0.36, 0.7);
  context.lineTo(-0.44, 1.35);
  context.quadraticCurveTo(0, 1.85, 0.44, 1.35);
  context.lineTo(0.36, 0.7);
  context.fill();
}

function headPath(context: SKRSContext2D, who: Character) {
  const w = who.faceWidth;
  context.beginPath();
  context.moveTo(0, -1.02);
  context.bezierCurveTo(w * 0.8, -1.02, w * 1.04, -0.6, w, 0);
  context.bezierCurveTo(w * 0.98, 0.45, who.jaw, 0.8, 0.28, 0.97);
  context.quadraticCurveTo(0, 1.05, -0.28, 0.97);
  context.bezierCurveTo(-who.jaw, 0.8, -w * 0.98, 0.45, -w, 0);
  context.bezierCurveTo(-w * 1.04, -0.6, -w * 0.8, -1.02, 0, -1.02);
}

function drawHead(context: SKRSContext2D, who: Character, turn: number) {
  const [light, base, shade] = who.skin;
  for (const side of [-1, 1]) {
    context.fillStyle = shade;
    context.beginPath();
    context.ellipse(side * who.faceWidth * 0.99 - turn * 0.2, 0.08, 0.12, 0.24, 0, 0, 7);
    context.fill();
  }
  headPath(context, who);
  const skin = context.createRadialGradient(-0.2 + turn * 0.5, -0.15, 0.1, 0, 0.1, 1.15);
  skin.addColorStop(0, light);
  skin.addColorStop(0.62, base);
  skin.addColorStop(1, shade);
  context.fillStyle = skin;
  context.fill();
}

function softDisc(context: SKRSContext2D, x: number, y: number, rx: number, ry: number, colour: string, alpha: number) {
  context.save();
  context.translate(x, y);
  context.scale(rx, ry);
  const soft = context.createRadialGradient(0, 0, 0, 0, 0, 1);
  soft.addColorStop(0, colour);
  soft.addColorStop(1, `${colour}00`);
  context.globalAlpha *= alpha;
  context.fillStyle = soft;
  context.fillRect(-1, -1, 2, 2);
  context.restore();
}

function drawFeatures(
  context: SKRSContext2D,
  who: Character,
  pose: Pose,
  place: (x: number, y: number) => [number, number],
  turn: number,
) {
  const [light, , shade] = who.skin;
  const smile = pose.smile ?? 0;
  for (const side of [-1, 1]) {
    const [ex, ey] = place(side * 0.315, -0.08);
    const narrow = Math.cos(turn + side * 0.25);
    softDisc(context, ex, ey, 0.3 * narrow, 0.2, shade, 0.6);
    const open = (1 - (pose.blink ?? 0)) * (0.092 - smile * 0.02);
    context.save();
    context.beginPath();
    context.ellipse(ex, ey, 0.165 * narrow, Math.max(0.012, open), 0, 0, 7);
    context.fillStyle = '#f7f3ee';
    context.fill();
    context.clip();
    const gaze = ex + turn * 0.05;
    context.fillStyle = who.iris;
    context.beginPath();
    context.arc(gaze, ey, 0.082, 0, 7);
    context.fill();
    context.fillStyle = '#0c0a0a';
    context.beginPath();
    context.arc(gaze, ey, 0.042, 0, 7);
    context.fill();
    context.fillStyle = '#ffffffdd';
    context.beginPath();
    context.arc(gaze + 0.028, ey - 0.03, 0.02, 0, 7);
    context.fill();
    context.restore();
    context.strokeStyle = '#1a1210';
    context.lineWidth = 0.035;
    context.beginPath();
    context.ellipse(ex, ey, 0.17 * narrow, Math.max(0.02, open), 0, Math.PI * 1.05, Math.PI * 1.95);
    context.stroke();
    const [bx, by] = place(side * 0.33, -0.3 - smile * 0.03);
    context.strokeStyle = who.hairStyle === 'bald' ? '#8d9093' : who.hair;
    context.lineWidth = 0.075;
    context.lineCap = 'round';
    context.beginPath();
    context.moveTo(bx - 0.2 * narrow, by + (side < 0 ? 0.05 : 0));
    context.quadraticCurveTo(bx, by - 0.08, bx + 0.2 * narrow, by + (side < 0 ? 0 : 0.05));
    context.stroke();
    const [cx, cy] = place(side * 0.45, 0.32);
    softDisc(context, cx, cy, 0.24, 0.18, who.lips, 0.22 + smile * 0.12);
  }
  const [nx, ny] = place(0, 0.36);
  softDisc(context, nx + 0.1, ny - 0.2, 0.16, 0.34, shade, 0.5);
  softDisc(context, nx - 0.03, ny - 0.22, 0.09, 0.32, light, 0.75);
  softDisc(context, nx, ny + 0.02, 0.24, 0.1, shade, 0.75);
  for (const side of [-1, 1]) softDisc(context, nx + side * 0.08, ny, 0.055, 0.04, '#2a1512', 0.8);
  drawMouth(context, who, pose, place);
  if (who.moustache) {
    const [mx, my] = place(0, 0.5);
    context.strokeStyle = who.moustache;
    context.lineWidth = 0.13;
    context.beginPath();
    context.moveTo(mx - 0.34, my + 0.06);
    context.quadraticCurveTo(mx - 0.12, my - 0.08, mx, my);
    context.quadraticCurveTo(mx + 0.12, my - 0.08, mx + 0.34, my + 0.06);
    context.stroke();
  }
  if (who.glasses) {
    context.strokeStyle = '#2b2320';
    context.lineWidth = 0.03;
    for (const side of [-1, 1]) {
      const [gx, gy] = place(side * 0.32, -0.07);
      context.beginPath();
      context.ellipse(gx, gy, 0.23 * Math.cos(turn), 0.2, 0, 0, 7);
      context.stroke();
    }
    const [gx, gy] = place(0, -0.09);
    context.beginPath();
    context.moveTo(gx - 0.1, gy);
    context.lineTo(gx + 0.1, gy);
    context.stroke();
  }
}

function drawMouth(
  context: SKRSContext2D,
  who: Character,
  pose: Pose,
  place: (x: number, y: number) => [number, number],
) {
  const smile = pose.smile ?? 0;
  const open = (pose.mouth ?? 0) * 0.13 + smile * 0.085;
  const half = 0.27 + smile * 0.1;
  const [mx, my] = place(0, 0.6);
  const corner = my - smile * 0.07;
  softDisc(context, mx, my + 0.2, 0.26, 0.09, who.skin[2], 0.5);
  context.fillStyle = who.lips;
  context.beginPath();
  context.moveTo(mx - half, corner);
  context.quadraticCurveTo(mx - 0.1, my - 0.085, mx, my - 0.05);
  context.quadraticCurveTo(mx + 0.1, my - 0.085, mx + half, corner);
  context.quadraticCurveTo(mx, my + 0.14 + open * 1.9, mx - half, corner);
  context.fill();
  if (open < 0.015) {
    context.strokeStyle = '#3c1b18';
    context.lineWidth = 0.022;
    context.beginPath();
    context.moveTo(mx - half, corner);
    context.quadraticCurveTo(mx, my + 0.05, mx + half, corner);
    context.stroke();
    return;
  }
  context.save();
  context.beginPath();
  context.moveTo(mx - half * 0.86, corner + 0.012);
  context.quadraticCurveTo(mx, my - 0.02, mx + half * 0.86, corner + 0.012);
  context.quadraticCurveTo(mx, my + 0.05 + open * 1.75, mx - half * 0.86, corner + 0.012);
  context.fillStyle = '#3a1214';
  context.fill();
  context.clip();
  context.fillStyle = '#fbf7f0';
  context.fillRect(mx - 0.3, my - 0.09, 0.6, 0.075 + smile * 0.06);
  context.restore();
}

function drawHairBehind(context: SKRSContext2D, who: Character) {
  context.fillStyle = who.hair;
  if (who.hairStyle === 'long' || who.hairStyle === 'bob') {
    const length = who.hairStyle === 'long' ? 1.75 : 0.78;
    context.beginPath();
    context.moveTo(-0.93, -0.2);
    context.bezierCurveTo(-1, -1.5, 1, -1.5, 0.93, -0.2);
    context.quadraticCurveTo(1.05, length * 0.6, 0.82, length);
    context.lineTo(-0.82, length);
    context.quadraticCurveTo(-1.05, length * 0.6, -0.93, -0.2);
    context.fill();
  }
  if (who.hairStyle === 'bun') {
    context.beginPath();
    context.arc(0, -1.25, 0.34, 0, 7);
    context.fill();
  }
  if (who.hairStyle === 'curly') {
    for (let index = 0; index < 11; index++) {
      const angle = Math.PI * (0.95 + (index / 10) * 1.1);
      context.beginPath();
      context.arc(Math.cos(angle) * 0.8, -0.25 + Math.sin(angle) * 0.85, 0.3, 0, 7);
      context.fill();
    }
  }
  if (who.hairStyle === 'bald') {
    for (const side of [-1, 1]) {
      context.beginPath();
      context.ellipse(side * 0.84, -0.12, 0.15, 0.42, 0, 0, 7);
      context.fill();
    }
  }
}

function drawHairFront(context: SKRSContext2D, who: Character, turn: number) {
  if (who.hairStyle === 'bald') return;
  const w = who.faceWidth;
  const hair = context.createLinearGradient(-0.4, -1.2, 0.5, -0.4);
  hair.addColorStop(0, who.hair);
  hair.addColorStop(0.45, lighten(who.hair));
  hair.addColorStop(1, who.hair);
  context.fillStyle = hair;
  const fringe = who.hairStyle === 'bob' ? -0.48 : -0.68;
  context.beginPath();
  context.moveTo(-w * 1.06, -0.12);
  context.bezierCurveTo(-w * 1.2, -1.42, w * 1.2, -1.42, w * 1.06, -0.12);
  context.quadraticCurveTo(w * 0.96, -0.5, w * 0.72 + turn * 0.2, fringe);
  context.quadraticCurveTo(turn * 0.4, fringe - 0.14, -w * 0.72 + turn * 0.2, fringe);
  context.quadraticCurveTo(-w * 0.96, -0.5, -w * 1.06, -0.12);
  context.fill();
  if (who.hat) {
    context.fillStyle = who.hat;
    context.beginPath();
    context.ellipse(0, -0.86, 1.1, 0.17, 0, 0, 7);
    context.fill();
    context.beginPath();
    context.ellipse(0, -0.92, 0.72, 0.48, 0, Math.PI, 0);
    context.fill();
  }
}

function lighten(colour: string): string {
  const value = Number.parseInt(colour.slice(1), 16);
  const part = (shift: number) => Math.min(255, ((value >> shift) & 255) + 26);
  return `rgb(${part(16)},${part(8)},${part(0)})`;
}

import { createCanvas, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { seededRandom, type Random } from './random';

/** The world is wider than any frame, so that the camera can move over it. */
const world = { width: 2880, height: 1296, shore: 640, lawn: 1010 };

/** The whole place, painted once: sky, trees, stalls, pond, lawn and bunting. */
export function paintWorld(): Canvas {
  const canvas = createCanvas(world.width, world.height);
  const context = canvas.getContext('2d');
  const random = seededRandom(2207);
  paintSky(context, random);
  paintTrees(context, random);
  paintPond(context, random);
  for (let index = 0; index < 9; index++) paintStall(context, 150 + index * 325, index, random);
  paintLawn(context, random);
  paintBunting(context, 405, 0);
  paintBunting(context, 462, 3);
  return canvas;
}

function paintSky(context: SKRSContext2D, random: Random) {
  const sky = context.createLinearGradient(0, 0, 0, world.shore);
  sky.addColorStop(0, '#3f86cf');
  sky.addColorStop(1, '#d9ecf5');
  context.fillStyle = sky;
  context.fillRect(0, 0, world.width, world.shore);
  for (let cloud = 0; cloud < 16; cloud++) {
    const x = random() * world.width;
    const y = 40 + random() * 260;
    for (let puff = 0; puff < 9; puff++) {
      const r = 24 + random() * 52;
      const px = x + (random() - 0.5) * 210;
      const py = y + (random() - 0.5) * 42;
      const soft = context.createRadialGradient(px, py, 0, px, py, r);
      soft.addColorStop(0, 'rgba(255,255,255,0.75)');
      soft.addColorStop(1, 'rgba(255,255,255,0)');
      context.fillStyle = soft;
      context.fillRect(px - r, py - r, r * 2, r * 2);
    }
  }
}

function paintTrees(context: SKRSContext2D, random: Random) {
  for (let tree = 0; tree < 74; tree++) {
    const x = (tree / 74) * world.width + random() * 30;
    const size = 55 + random() * 70;
    const base = world.shore - 8;
    const green = 70 + random() * 60;
    for (let leaf = 0; leaf < 26; leaf++) {
      const lx = x + (random() - 0.5) * size * 1.4;
      const ly = base - random() * size * 1.7;
      const shade = green + (random() - 0.5) * 46;
      context.fillStyle = `rgb(${shade * 0.48},${shade},${shade * 0.4})`;
      context.beginPath();
      context.arc(lx, ly, 9 + random() * 20, 0, 7);
      context.fill();
    }
  }
}

function paintPond(context: SKRSContext2D, random: Random) {
  const water = context.createLinearGradient(0, world.shore, 0, world.lawn);
  water.addColorStop(0, '#5fa0b4');
  water.addColorStop(0.5, '#2f7292');
  water.addColorStop(1, '#1d5570');
  context.fillStyle = water;
  context.fillRect(0, world.shore, world.width, world.lawn - world.shore + 60);
  for (let ripple = 0; ripple < 1500; ripple++) {
    const depth = random();
    const y = world.shore + 6 + depth * (world.lawn - world.shore);
    context.fillStyle =
      random() > 0.45 ? `rgba(220,242,248,${0.06 + random() * 0.2})` : `rgba(8,42,62,${0.06 + random() * 0.2})`;
    context.fillRect(random() * world.width, y, 14 + depth * random() * 95, 1.2 + depth * 2.4);
  }
  for (let reed = 0; reed < 240; reed++) {
    const x = random() * world.width;
    context.strokeStyle = `rgba(${70 + random() * 40},${110 + random() * 40},60,0.9)`;
    context.lineWidth = 2;
    context.beginPath();
    context.moveTo(x, world.shore + 8);
    context.lineTo(x + (random() - 0.5) * 12, world.shore - 10 - random() * 22);
    context.stroke();
  }
}

function paintStall(context: SKRSContext2D, x: number, index: number, random: Random) {
  const colours = ['#c93c38', '#2c7fb8', '#d9a321', '#4f9a52', '#8a57a8'];
  const y = world.shore - 130;
  context.fillStyle = '#6b4226';
  context.fillRect(x, y + 70, 150, 74);
  context.fillStyle = '#8a5a36';
  for (let plank = 0; plank < 6; plank++) context.fillRect(x + plank * 25 + 1, y + 72, 22, 70);
  for (let jar = 0; jar < 12; jar++) {
    context.fillStyle = `hsl(${random() * 360},65%,55%)`;
    context.beginPath();
    context.arc(x + 10 + jar * 12, y + 62, 7, 0, 7);
    context.fill();
  }
  context.fillStyle = '#4a2d1a';
  context.fillRect(x + 2, y, 5, 72);
  context.fillRect(x + 143, y, 5, 72);
  for (let stripe = 0; stripe < 8; stripe++) {
    context.fillStyle = stripe % 2 ? '#f6f1e6' : colours[index % colours.length]!;
    context.beginPath();
    context.moveTo(x - 10 + stripe * 21.3 + 8, y - 42);
    context.lineTo(x - 10 + (stripe + 1) * 21.3 + (stripe === 7 ? -8 : 4), y - 42);
    context.lineTo(x - 10 + (stripe + 1) * 21.3, y + 8);
    context.arc(x - 10 + (stripe + 0.5) * 21.3, y + 8, 10.6, 0, Math.PI);
    context.fill();
  }
}

function paintLawn(context: SKRSContext2D, random: Random) {
  const lawn = context.createLinearGradient(0, world.lawn - 20, 0, world.height);
  lawn.addColorStop(0, '#6d9c43');
  lawn.addColorStop(1, '#3d6b28');
  context.fillStyle = lawn;
  context.beginPath();
  context.moveTo(0, world.lawn);
  for (let x = 0; x <= world.width; x += 40) context.lineTo(x, world.lawn + Math.sin(x / 170) * 10);
  context.lineTo(world.width, world.height);
  context.lineTo(0, world.height);
  context.fill();
  for (let blade = 0; blade < 5200; blade++) {
    const x = random() * world.width;
    const y = world.lawn + random() * (world.height - world.lawn);
    const green = 90 + random() * 90;
    context.strokeStyle = `rgba(${green * 0.62},${green},${green * 0.34},0.7)`;
    context.lineWidth = 1.4;
    context.beginPath();
    context.moveTo(x, y);
    context.lineTo(x + (random() - 0.5) * 8, y - 6 - random() * 14);
    context.stroke();
  }
}

function paintBunting(context: SKRSContext2D, y: number, shift: number) {
  const colours = ['#e2473f', '#f2c230', '#3a9a56', '#2f7fc0', '#e57fae', '#7fd0c8'];
  context.strokeStyle = '#4b4b52';
  context.lineWidth = 2;
  const height = (x: number) => y + Math.abs(Math.sin((x + shift * 90) / 360)) * 62;
  context.beginPath();
  for (let x = 0; x <= world.width; x += 12) context.lineTo(x, height(x));
  context.stroke();
  for (let flag = 0; flag * 38 < world.width; flag++) {
    const x = flag * 38;
    context.fillStyle = colours[(flag + shift) % colours.length]!;
    context.beginPath();
    context.moveTo(x - 12, height(x - 12));
    context.lineTo(x + 12, height(x + 12));
    context.lineTo(x, height(x) + 30);
    context.fill();
  }
}

/** Light on the water that moves, drawn over the painted pond. */
export function drawShimmer(context: SKRSContext2D, seconds: number) {
  const random = seededRandom(99);
  context.fillStyle = 'rgba(235,248,252,0.30)';
  for (let spark = 0; spark < 150; spark++) {
    const depth = random();
    const x = (random() * world.width + seconds * (6 + depth * 26)) % world.width;
    const y = world.shore + 10 + depth * (world.lawn - world.shore - 30);
    const glow = Math.max(0, Math.sin(seconds * (1 + random() * 2.2) + random() * 7));
    context.globalAlpha = glow;
    context.fillRect(x, y, 12 + depth * 44, 1.5 + depth * 2);
  }
  context.globalAlpha = 1;
}

export interface Boat {
  x: number;
  y: number;
  scale: number;
  hull: string;
  sail: string;
  seconds: number;
  /** 0 floats, 1 is under water. */
  sunk?: number;
  facing?: 1 | -1;
}

/** A cardboard boat: a taped box for a hull, a broomstick mast and a paper sail. */
export function drawBoat(context: SKRSContext2D, boat: Boat) {
  const sunk = boat.sunk ?? 0;
  context.save();
  context.translate(boat.x, boat.y + Math.sin(boat.seconds * 2.3) * 3 * boat.scale);
  context.scale(boat.scale * (boat.facing ?? 1), boat.scale);
  context.beginPath();
  context.rect(-260, -420, 520, 455);
  context.clip();
  context.translate(0, sunk * 250);
  context.rotate(Math.sin(boat.seconds * 1.7) * 0.025 + sunk * 0.5);
  context.fillStyle = '#6d4a2c';
  context.fillRect(-4, -250, 8, 260);
  const sail = context.createLinearGradient(-90, -240, 90, 0);
  sail.addColorStop(0, '#ffffff');
  sail.addColorStop(1, boat.sail);
  context.fillStyle = sail;
  context.beginPath();
  context.moveTo(8, -245);
  context.quadraticCurveTo(105, -120, 118, -38);
  context.lineTo(8, -38);
  context.fill();
  context.beginPath();
  context.moveTo(-8, -225);
  context.quadraticCurveTo(-60, -110, -92, -42);
  context.lineTo(-8, -42);
  context.fill();
  const hull = context.createLinearGradient(0, -30, 0, 35);
  hull.addColorStop(0, boat.hull);
  hull.addColorStop(1, '#4a3520');
  context.fillStyle = hull;
  context.beginPath();
  context.moveTo(-140, -30);
  context.lineTo(150, -30);
  context.lineTo(112, 30);
  context.lineTo(-110, 30);
  context.fill();
  context.fillStyle = 'rgba(245,236,210,0.85)';
  for (const strip of [-78, -10, 62]) context.fillRect(strip, -30, 15, 58);
  context.restore();
  context.fillStyle = 'rgba(230,245,250,0.5)';
  context.beginPath();
  context.ellipse(boat.x, boat.y + 32 * boat.scale, 150 * boat.scale, 7 * boat.scale, 0, 0, 7);
  context.fill();
}

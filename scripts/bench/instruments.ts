/** Runs in the page before its own code: notes when lines are drawn, pictures shown, lights seen and beeps heard. */
export function instruments() {
  // Page lines clear their canvas, 84 pixels high, before they are drawn; the landscape has another height.
  const { clearRect } = CanvasRenderingContext2D.prototype;
  CanvasRenderingContext2D.prototype.clearRect = function (x, y, width, height) {
    if (height === 84) (window as unknown as { drawn: number }).drawn = performance.now();
    return clearRect.call(this, x, y, width, height);
  };
  // A picture of the reel's viewer counts when its film stands at the frame that is wanted.
  const draw = CanvasRenderingContext2D.prototype.drawImage as (
    this: CanvasRenderingContext2D,
    ...given: unknown[]
  ) => void;
  CanvasRenderingContext2D.prototype.drawImage = function (this: CanvasRenderingContext2D, ...given: unknown[]) {
    if (given[0] instanceof HTMLVideoElement && !given[0].seeking)
      ((window as unknown as { viewed: number[] }).viewed ??= []).push(performance.now());
    draw.apply(this, given);
    const watch = window as unknown as { lights?: number[]; lit?: boolean };
    if (!watch.lights || !(given[0] instanceof HTMLVideoElement) || this.canvas.width < 200) return;
    const lit = this.getImageData(this.canvas.width / 2, this.canvas.height / 2, 1, 1).data[0]! > 128;
    if (lit && !watch.lit) watch.lights.push(performance.now());
    watch.lit = lit;
  };
  // What elements give to the loudspeakers is listened to on its way, for the first loud sample behind silence.
  const wire = AudioContext.prototype.createMediaElementSource;
  AudioContext.prototype.createMediaElementSource = function (element) {
    const node = wire.call(this, element);
    const ear = this.createAnalyser();
    ear.fftSize = 4096;
    node.connect(ear);
    const heard = new Float32Array(4096);
    let last = -Infinity;
    setInterval(() => {
      const beeps = (window as unknown as { beeps?: number[] }).beeps;
      if (!beeps || element.paused) return;
      ear.getFloatTimeDomainData(heard);
      const at = heard.findIndex((value) => Math.abs(value) > 0.2);
      // It is heard a little later than it is computed.
      const now = performance.now() - ((heard.length - at) / this.sampleRate) * 1000 + this.outputLatency * 1000;
      if (at > 480 && now - last > 500) {
        last = now;
        beeps.push(now);
      }
    }, 20);
    return node;
  };
}

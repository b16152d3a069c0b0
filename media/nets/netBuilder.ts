import { onnxModel, type Attribute, type OnnxNode, type OnnxTensor } from './onnxBytes';

/** A tensor of weights as the packages ship it. */
export interface Weight {
  shape: number[];
  data: Float32Array;
}

export interface ConvOptions {
  strides: [number, number];
  same: boolean;
  bias?: Weight;
  dilations?: [number, number];
}

/** Builds a net for onnxruntime out of layers in the usual order NCHW; weights come in TensorFlow's order and are turned. */
export class NetBuilder {
  private readonly nodes: OnnxNode[] = [];
  private readonly weights: OnnxTensor[] = [];
  private readonly inputs: Record<string, (number | string)[]> = {};
  private count = 0;

  input(name: string, shape: (number | string)[]): string {
    this.inputs[name] = shape;
    return name;
  }

  node(
    type: string,
    inputs: string[],
    attributes: Record<string, Attribute> = {},
    output = `n${this.count++}`,
  ): string {
    this.nodes.push({ type, inputs, output, attributes });
    return output;
  }

  constant(data: Float32Array | BigInt64Array, shape: number[]): string {
    const name = `w${this.count++}`;
    this.weights.push({ name, shape, data });
    return name;
  }
  scalar = (value: number): string => this.constant(Float32Array.of(value), []);
  whole = (...values: number[]): string => this.constant(BigInt64Array.from(values.map(BigInt)), [values.length]);
  /** One value per channel, laid out so that it spreads over a picture. */
  perChannel = (weight: Weight): string => this.constant(weight.data, [1, weight.data.length, 1, 1]);

  /** @param filter height × width × in × out */
  conv(input: string, filter: Weight, options: ConvOptions): string {
    const [height, width, depth, out] = filter.shape as [number, number, number, number];
    const turned = turn(filter, 'b');
    return this.convolve(input, this.constant(turned, [out, depth, height, width]), [height, width], 1, options);
  }

  /** @param filter height × width × in × multiplier */
  depthwise(input: string, filter: Weight, options: ConvOptions): string {
    const [height, width, depth, times] = filter.shape as [number, number, number, number];
    const turned = turn(filter, 'a');
    return this.convolve(
      input,
      this.constant(turned, [depth * times, 1, height, width]),
      [height, width],
      depth,
      options,
    );
  }

  private convolve(
    input: string,
    filter: string,
    kernel: [number, number],
    group: number,
    { strides, same, bias, dilations }: ConvOptions,
  ): string {
    const inputs = bias ? [input, filter, this.constant(bias.data, [bias.data.length])] : [input, filter];
    return this.node('Conv', inputs, {
      kernel_shape: kernel,
      strides,
      group,
      dilations: dilations ?? [1, 1],
      auto_pad: same ? 'SAME_UPPER' : 'VALID',
    });
  }

  pool(
    kind: 'MaxPool' | 'AveragePool',
    input: string,
    kernel: [number, number],
    strides: [number, number],
    same: boolean,
  ): string {
    return this.node(kind, [input], { kernel_shape: kernel, strides, auto_pad: same ? 'SAME_UPPER' : 'VALID' });
  }

  add = (a: string, b: string): string => this.node('Add', [a, b]);
  relu = (input: string): string => this.node('Relu', [input]);
  mean = (input: string, axes: number[], keep: boolean): string =>
    this.node('ReduceMean', [input], { axes, keepdims: keep ? 1 : 0 });

  finish(outputs: Record<string, string>): Uint8Array {
    for (const [name, from] of Object.entries(outputs)) this.node('Identity', [from], {}, name);
    return onnxModel(this.nodes, this.weights, this.inputs, Object.keys(outputs));
  }
}

/** Filters of height × width × a × b as b × a × height × width, or a × b × height × width. */
function turn({ shape, data }: Weight, first: 'a' | 'b'): Float32Array {
  const [height, width, a, b] = shape as [number, number, number, number];
  const out = new Float32Array(data.length);
  const size = height * width;
  const stepA = first === 'b' ? size : size * b;
  const stepB = first === 'b' ? size * a : size;
  for (let place = 0, from = 0; place < size; place++)
    for (let i = 0; i < a; i++)
      for (let j = 0, to = place + i * stepA; j < b; j++, to += stepB) out[to] = data[from++]!;
  return out;
}

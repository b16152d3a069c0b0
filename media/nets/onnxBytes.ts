/**
 * Writes ONNX models (onnx.proto3 of ONNX IR 8) as protocol buffers: just the messages and field numbers that our nets
 * need. The wire format is that of protobuf: a varint key (field << 3 | type), then a varint or a length and bytes.
 */
class Message {
  private readonly parts: Buffer[] = [];

  integer(field: number, value: number): this {
    this.parts.push(varint(field << 3), varint(value));
    return this;
  }
  float(field: number, value: number): this {
    const bytes = Buffer.alloc(4);
    bytes.writeFloatLE(value);
    this.parts.push(varint((field << 3) | 5), bytes);
    return this;
  }
  bytes(field: number, value: Uint8Array | string | Message): this {
    const body = value instanceof Message ? value.finish() : Buffer.from(value);
    this.parts.push(varint((field << 3) | 2), varint(body.length), body);
    return this;
  }
  finish(): Buffer {
    return Buffer.concat(this.parts);
  }
}

function varint(value: number): Buffer {
  const bytes: number[] = [];
  let rest = BigInt.asUintN(64, BigInt(value));
  do {
    const low = Number(rest & 127n);
    rest >>= 7n;
    bytes.push(rest ? low | 128 : low);
  } while (rest);
  return Buffer.from(bytes);
}

export type Attribute = number | number[] | string | { float: number };

export interface OnnxNode {
  type: string;
  inputs: string[];
  output: string;
  attributes: Record<string, Attribute>;
}

export interface OnnxTensor {
  name: string;
  shape: number[];
  data: Float32Array | BigInt64Array;
}

const elementType = { float: 1, int64: 7 };

function tensor({ name, shape, data }: OnnxTensor): Message {
  const message = new Message();
  for (const size of shape) message.integer(1, size);
  message.integer(2, data instanceof Float32Array ? elementType.float : elementType.int64);
  return message.bytes(8, name).bytes(9, new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
}

function attribute(name: string, value: Attribute): Message {
  const message = new Message().bytes(1, name);
  if (typeof value === 'string') return message.bytes(4, value).integer(20, 3);
  if (typeof value === 'number') return message.integer(3, value).integer(20, 2);
  if (Array.isArray(value)) {
    for (const each of value) message.integer(8, each);
    return message.integer(20, 7);
  }
  return message.float(2, value.float).integer(20, 1);
}

function valueInfo(name: string, shape: (number | string)[] | null): Message {
  const type = new Message().integer(1, elementType.float);
  if (shape) {
    const dimensions = new Message();
    for (const size of shape)
      dimensions.bytes(1, typeof size === 'number' ? new Message().integer(1, size) : new Message().bytes(2, size));
    type.bytes(2, dimensions);
  }
  return new Message().bytes(1, name).bytes(2, new Message().bytes(1, type));
}

/** One model: nodes in an order in which every input is known, weights, float inputs with shapes, float outputs. */
export function onnxModel(
  nodes: readonly OnnxNode[],
  weights: readonly OnnxTensor[],
  inputs: Record<string, (number | string)[]>,
  outputs: readonly string[],
): Uint8Array {
  const graph = new Message();
  for (const node of nodes) {
    const message = new Message();
    for (const input of node.inputs) message.bytes(1, input);
    message.bytes(2, node.output).bytes(3, node.output).bytes(4, node.type);
    for (const [name, value] of Object.entries(node.attributes)) message.bytes(5, attribute(name, value));
    graph.bytes(1, message);
  }
  graph.bytes(2, 'net');
  for (const weight of weights) graph.bytes(5, tensor(weight));
  for (const [name, shape] of Object.entries(inputs)) graph.bytes(11, valueInfo(name, shape));
  for (const name of outputs) graph.bytes(12, valueInfo(name, null));
  return new Message().integer(1, 8).bytes(7, graph).bytes(8, new Message().bytes(1, '').integer(2, 17)).finish();
}

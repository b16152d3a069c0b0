import { readFileSync } from 'node:fs';
import { NetBuilder, type ConvOptions, type Weight } from './netBuilder';
import { readWeights, type Manifest } from './weights';

interface GraphNode {
  name: string;
  op: string;
  input?: string[];
  attr?: Record<
    string,
    { i?: string | number; b?: boolean; s?: string; list?: { i?: (string | number)[]; s?: string[] } }
  >;
}

/**
 * A TensorFlow.js graph model as a net for onnxruntime, which runs it several times faster than the WebAssembly
 * backend does. Pictures go in and come out as NCHW; a Reshape sees NHWC, as the model means it.
 * @param outputs names of the nodes wanted; what only other nodes need is left out
 * @throws Error when the graph holds an operation that is not known here
 */
export function graphModelToNet(
  jsonFile: string,
  shape: [number, number, number],
  outputs: readonly string[],
): Uint8Array {
  const { modelTopology, weightsManifest } = JSON.parse(readFileSync(jsonFile, 'utf8')) as {
    modelTopology: { node: GraphNode[] };
    weightsManifest: Manifest;
  };
  const weights = readWeights(jsonFile, weightsManifest);
  const nodes = new Map(modelTopology.node.map((node) => [node.name, node]));
  const net = new NetBuilder();
  const done = new Map<string, string>();

  const build = (name: string): string => {
    const known = done.get(name);
    if (known !== undefined) return known;
    const node = nodes.get(name);
    if (!node) throw new Error(`The model has no node ${name}.`);
    const built = convert(node);
    done.set(name, built);
    return built;
  };
  const weightOf = (name: string): Weight => {
    const weight = weights.get(name);
    if (!weight) throw new Error(`The model has no weights ${name}.`);
    return weight;
  };
  /** An operand of elementwise arithmetic: a node, or a constant that spreads over the channels. */
  const operand = (name: string): string => {
    const weight = weights.get(name);
    if (!weight) return build(name);
    if (weight.shape.length === 0 || weight.data.length === 1) return net.scalar(weight.data[0]!);
    if (weight.shape.length > 1 && weight.shape.slice(0, -1).some((size) => size !== 1))
      throw new Error(`Constant ${name} is not one per channel.`);
    return net.perChannel(weight);
  };
  const convert = (node: GraphNode): string => {
    const inputs = (node.input ?? []).filter((input) => !input.startsWith('^'));
    const at = (index: number) => build(inputs[index]!);
    switch (node.op) {
      case 'Placeholder':
        return net.input('picture', [1, ...shape]);
      case 'Identity':
        return at(0);
      case 'Conv2D':
      case '_FusedConv2D':
        return activate(net, fused(node), net.conv(at(0), weightOf(inputs[1]!), convOptions(node, inputs, weightOf)));
      case 'DepthwiseConv2dNative':
      case 'FusedDepthwiseConv2dNative':
        return activate(
          net,
          fused(node),
          net.depthwise(at(0), weightOf(inputs[1]!), convOptions(node, inputs, weightOf)),
        );
      case 'Add':
      case 'AddV2':
        return net.add(operand(inputs[0]!), operand(inputs[1]!));
      case 'Mul':
        return net.node('Mul', [operand(inputs[0]!), operand(inputs[1]!)]);
      case 'Relu':
        return net.relu(at(0));
      case 'Relu6':
        return net.node('Clip', [at(0), net.scalar(0), net.scalar(6)]);
      case 'Sigmoid':
        return net.node('Sigmoid', [at(0)]);
      case 'MaxPool':
        return net.pool('MaxPool', at(0), spatial(node, 'ksize'), spatial(node, 'strides'), isSame(node));
      case 'Mean':
        return net.mean(at(0), [2, 3], node.attr?.keep_dims?.b ?? false);
      case 'ConcatV2':
        return net.node('Concat', inputs.slice(0, -1).map(build), { axis: 1 });
      case 'Pad': {
        const [, top, left, channels, , bottom, right, channelsEnd] = (([n, h, w, c]) => [
          n![0],
          h![0],
          w![0],
          c![0],
          n![1],
          h![1],
          w![1],
          c![1],
        ])(pairs(weightOf(inputs[1]!)));
        return net.node('Pad', [at(0), net.whole(0, channels!, top!, left!, 0, channelsEnd!, bottom!, right!)]);
      }
      case 'ResizeBilinear': {
        // Up-sampling by two; corners as TensorFlow's first version lays them (align_corners and half_pixel_centers both false).
        return net.node('Resize', [at(0), '', net.constant(Float32Array.of(1, 1, 2, 2), [4])], {
          mode: 'linear',
          coordinate_transformation_mode: 'asymmetric',
        });
      }
      case 'Reshape':
        return net.node('Reshape', [
          net.node('Transpose', [at(0)], { perm: [0, 2, 3, 1] }),
          net.whole(...weightOf(inputs[1]!).data),
        ]);
      default:
        throw new Error(`The operation ${node.op} is not known.`);
    }
  };
  return net.finish(Object.fromEntries(outputs.map((name, index) => [`output${index}`, build(name)])));
}

const pairs = ({ data }: Weight): number[][] =>
  Array.from({ length: data.length / 2 }, (_, index) => [data[index * 2]!, data[index * 2 + 1]!]);
const text = (encoded: string | undefined) => Buffer.from(encoded ?? '', 'base64').toString();
const isSame = (node: GraphNode) => text(node.attr?.padding?.s) === 'SAME';
const spatial = (node: GraphNode, name: string): [number, number] => {
  const list = node.attr?.[name]?.list?.i?.map(Number) ?? [1, 1, 1, 1];
  return [list[1] ?? 1, list[2] ?? 1];
};
const fused = (node: GraphNode) => (node.attr?.fused_ops?.list?.s ?? []).map(text);

function convOptions(node: GraphNode, inputs: string[], weightOf: (name: string) => Weight): ConvOptions {
  const bias = fused(node).includes('BiasAdd') ? weightOf(inputs[2]!) : undefined;
  return {
    strides: spatial(node, 'strides'),
    same: isSame(node),
    dilations: spatial(node, 'dilations'),
    ...(bias ? { bias } : {}),
  };
}

function activate(net: NetBuilder, operations: string[], output: string): string {
  const last = operations.find((name) => name !== 'BiasAdd');
  if (!last) return output;
  if (last === 'Relu') return net.relu(output);
  if (last === 'Relu6') return net.node('Clip', [output, net.scalar(0), net.scalar(6)]);
  throw new Error(`The fused operation ${last} is not known.`);
}

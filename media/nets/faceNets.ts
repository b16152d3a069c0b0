import { readFileSync } from 'node:fs';
import { NetBuilder, type Weight } from './netBuilder';
import { readWeights, type Manifest } from './weights';

/**
 * The descriptor and expression nets of the face package as nets for onnxruntime, from its weights. Pictures are
 * N × 3 × side × side, RGB, 0 to 255. That they say what the package itself says is tested.
 */
const meanRgb = [122.782, 117.001, 104.298];
export const descriptorSide = 150;
export const expressionSide = 112;

function read(manifestFile: string) {
  const weights = readWeights(manifestFile, JSON.parse(readFileSync(manifestFile, 'utf8')) as Manifest);
  return (name: string): Weight => {
    const weight = weights.get(name);
    if (!weight) throw new Error(`The face package has no weights ${name}.`);
    return weight;
  };
}

const normalise = (net: NetBuilder, input: string): string =>
  net.node('Div', [
    net.node('Sub', [input, net.perChannel({ shape: [3], data: Float32Array.from(meanRgb) })]),
    net.scalar(255),
  ]);

/** 128 numbers per face (a residual net of 29 layers, as dlib's); the same person's lie within about 0.35 of one another. */
export function descriptorNet(manifestFile: string): Uint8Array {
  const weight = read(manifestFile);
  const net = new NetBuilder();
  const layer = (input: string, name: string, stride: number, same: boolean, relu: boolean) => {
    const out = net.conv(input, weight(`${name}/conv/filters`), {
      strides: [stride, stride],
      same,
      bias: weight(`${name}/conv/bias`),
    });
    const scaled = net.add(
      net.node('Mul', [out, net.perChannel(weight(`${name}/scale/weights`))]),
      net.perChannel(weight(`${name}/scale/biases`)),
    );
    return relu ? net.relu(scaled) : scaled;
  };
  const residual = (input: string, name: string) =>
    net.relu(net.add(layer(layer(input, `${name}/conv1`, 1, true, true), `${name}/conv2`, 1, true, false), input));
  /** Halves the picture; the shortcut is a mean of two by two, filled up with zeros to the new size and depth. */
  const residualDown = (input: string, name: string, missing: 0 | 1, deeper: number) => {
    const out = layer(layer(input, `${name}/conv1`, 2, false, true), `${name}/conv2`, 1, true, false);
    const pooled = net.pool('AveragePool', input, [2, 2], [2, 2], false);
    const padded = net.node('Pad', [pooled, net.whole(0, 0, 0, 0, 0, deeper, 0, 0)]);
    const grown = net.node('Pad', [out, net.whole(0, 0, 0, 0, 0, 0, missing, missing)]);
    return net.relu(net.add(padded, grown));
  };
  let at = normalise(net, net.input('picture', ['faces', 3, descriptorSide, descriptorSide]));
  at = net.pool('MaxPool', layer(at, 'conv32_down', 2, false, true), [3, 3], [2, 2], false);
  for (const name of ['conv32_1', 'conv32_2', 'conv32_3']) at = residual(at, name);
  at = residualDown(at, 'conv64_down', 0, 32);
  for (const name of ['conv64_1', 'conv64_2', 'conv64_3']) at = residual(at, name);
  at = residualDown(at, 'conv128_down', 0, 64);
  for (const name of ['conv128_1', 'conv128_2']) at = residual(at, name);
  at = residualDown(at, 'conv256_down', 1, 128);
  for (const name of ['conv256_1', 'conv256_2']) at = residual(at, name);
  at = residualDown(at, 'conv256_down_out', 1, 0);
  const fc = weight('fc');
  return net.finish({ descriptor: net.node('MatMul', [net.mean(at, [2, 3], false), net.constant(fc.data, fc.shape)]) });
}

/** Seven shares per face: neutral, happy, sad, angry, fearful, disgusted, surprised. */
export function expressionNet(manifestFile: string): Uint8Array {
  const weight = read(manifestFile);
  const net = new NetBuilder();
  const separable = (input: string, name: string, stride: number) =>
    net.conv(
      net.depthwise(input, weight(`${name}/depthwise_filter`), { strides: [stride, stride], same: true }),
      weight(`${name}/pointwise_filter`),
      { strides: [1, 1], same: true, bias: weight(`${name}/bias`) },
    );
  const dense = (input: string, name: string, first: boolean) => {
    const one = net.relu(
      first
        ? net.conv(input, weight(`${name}/conv0/filters`), {
            strides: [2, 2],
            same: true,
            bias: weight(`${name}/conv0/bias`),
          })
        : separable(input, `${name}/conv0`, 2),
    );
    const two = net.add(one, separable(one, `${name}/conv1`, 1));
    const three = net.add(two, separable(net.relu(two), `${name}/conv2`, 1));
    return net.relu(net.add(three, separable(net.relu(three), `${name}/conv3`, 1)));
  };
  let at = normalise(net, net.input('picture', ['faces', 3, expressionSide, expressionSide]));
  for (const [index, name] of ['dense0', 'dense1', 'dense2', 'dense3'].entries()) at = dense(at, name, index === 0);
  const pooled = net.node('Flatten', [net.pool('AveragePool', at, [7, 7], [2, 2], false)], { axis: 1 });
  const { data, shape } = weight('fc/weights');
  const out = net.add(
    net.node('MatMul', [pooled, net.constant(data, shape)]),
    net.constant(weight('fc/bias').data, [7]),
  );
  return net.finish({ expression: net.node('Softmax', [out], { axis: 1 }) });
}

import type { Chip, Joined, Node } from './types';

/** What can be done to the word between two parts: turn "and" into "or", or have it bind before or after all others. */
export type JointChange = 'other' | 'tight' | 'loose';

interface Joint {
  op: 'and' | 'or';
  /** The deeper, the sooner it binds. */
  depth: number;
}

/**
 * A request with one of its joints changed.
 * @param index of the joint between parts `index` and `index + 1` of `group`
 */
export function changeJoint(tree: Node, group: Joined, index: number, change: JointChange): Node {
  const leaves: Node[] = [];
  const joints: Joint[] = [];
  let target = -1;
  const lay = (node: Node, depth: number): void => {
    if (!isJoined(node)) {
      if (node.op === 'chip') leaves.push(node);
      else leaves.push({ ...node, of: changeJoint(node.of, group, index, change) });
      return;
    }
    for (const [place, part] of node.of.entries()) {
      if (place > 0) {
        if (node === group && place - 1 === index) target = joints.length;
        joints.push({ op: node.op, depth });
      }
      lay(part, depth + 1);
    }
  };
  lay(tree, 0);
  const joint = joints[target];
  if (joint) {
    if (change === 'other') joint.op = joint.op === 'and' ? 'or' : 'and';
    else joint.depth = change === 'loose' ? -1 : 1 + Math.max(...joints.map(({ depth }) => depth));
  }
  return build(leaves, joints);
}

const isJoined = (node: Node): node is Joined => node.op === 'and' || node.op === 'or';

/** Parts in a row as a tree: the shallowest joints bind last, of equally deep ones "or" does. */
function build(leaves: readonly Node[], joints: readonly Joint[]): Node {
  if (joints.length === 0) return leaves[0]!;
  const shallowest = Math.min(...joints.map(({ depth }) => depth));
  const last = joints.filter(({ depth }) => depth === shallowest);
  const op = last.some((joint) => joint.op === 'or') ? 'or' : 'and';
  const of: Node[] = [];
  let from = 0;
  for (const [place, joint] of [...joints.entries(), [joints.length, null] as const]) {
    if (joint && (joint.depth !== shallowest || joint.op !== op)) continue;
    const part = build(leaves.slice(from, place + 1), joints.slice(from, place));
    if (isJoined(part) && part.op === op) of.push(...part.of);
    else of.push(part);
    from = place + 1;
  }
  return { op, of };
}

/** A request as text that is understood as the same tree, with every bracket written. */
export function writeRequest(tree: Node, picks: readonly Chip[]): string {
  return [...picks.map(({ text }) => text), write(tree)].join(' ');
}

function write(node: Node): string {
  if (node.op === 'chip') {
    const { term, text } = node.chip;
    return term.kind === 'date' && term.days.hours ? `the ${text}` : text;
  }
  if (node.op === 'not') return `not ${inBrackets(node.of)}`;
  if (node.op === 'near') return `${node.where} ${inBrackets(node.of)}`;
  return node.of.map(inBrackets).join(` ${node.op} `);
}

const inBrackets = (node: Node): string => (isJoined(node) ? `(${write(node)})` : write(node));

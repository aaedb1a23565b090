import { Graph, layout } from '@dagrejs/dagre';
import { blockKindOf, wiresOf, type LogicBlock, type SafetyLogic } from '@fadenkreuz/core';

/** Where the blocks of a network stand in its drawing: from left to right, each behind what it reads. */

/** Pixels of a block, and of each of its wires' ends. */
const wide = 148;
const head = 44;
const perWire = 20;

/** Letters of a name in a line of its block, and pixels of each further line. */
const letters = 14;
const perLine = 19;

const heightOf = (block: LogicBlock): number =>
  Math.max(
    head + perWire * Math.max(0, endsOf(block) - 1),
    head + perLine * (Math.ceil(block.name.length / letters) - 1),
  );

/** How many wires may end at a block: one more than there are, where it takes any number. */
export const endsOf = (block: LogicBlock): number => {
  const kind = blockKindOf(block);
  return kind.more ? Math.min(wiresOf(block).length + 1, 16) : kind.wires.length;
};

export interface BlockPlace {
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

export function placesOf({ blocks }: Pick<SafetyLogic, 'blocks'>): {
  places: BlockPlace[];
  width: number;
  height: number;
} {
  const graph = new Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 14, ranksep: 34, marginx: 2, marginy: 2 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const block of blocks) graph.setNode(block.id, { width: wide, height: heightOf(block) });
  for (const block of blocks)
    for (const { from } of wiresOf(block)) if (graph.hasNode(from)) graph.setEdge(from, block.id);
  layout(graph);
  const places = blocks.map(({ id }) => {
    const { x, y, width, height } = graph.node(id) as Required<Omit<BlockPlace, 'id'>>;
    return { id, x: x - width / 2, y: y - height / 2, width, height };
  });
  return {
    places,
    width: Math.max(0, ...places.map((p) => p.x + p.width)),
    height: Math.max(0, ...places.map((p) => p.y + p.height)),
  };
}

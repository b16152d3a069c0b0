// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useRef, useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { landedAt } from './landedAt';
import { Movable } from './Movable';
import { useLandingRoom } from './useLandingRoom';

// jsdom has no drags of its own.
class TestDragEvent extends MouseEvent {}
vi.stubGlobal('DragEvent', TestDragEvent);

const onBeside = vi.fn<(id: string, copy: boolean) => void>();

/** Three boats in a row, a hundred pixels each, and one of another kind. */
function Harbour({ isFixed = false }: { isFixed?: boolean }) {
  const [order, setOrder] = useState(['Ada', 'Bob', 'Cleo']);
  const room = useRef<HTMLDivElement>(null);
  useLandingRoom(room, 'boat', (id, { copy }) => onBeside(id, copy));
  return (
    <div ref={room} data-testid="room" style={{ overflowY: 'auto' }}>
      {order.map((name, index) => (
        <Movable
          as="button"
          type="button"
          key={name}
          kind="boat"
          id={name}
          along="row"
          isFixed={isFixed}
          onLand={(moved, { side }) => {
            const from = order.indexOf(moved);
            setOrder(order.toSpliced(from, 1).toSpliced(landedAt(from, index, side), 0, moved));
          }}
        >
          {name}
        </Movable>
      ))}
      <Movable as="button" type="button" kind="duck" id="Duck" onLand={vi.fn()}>
        Duck
      </Movable>
    </div>
  );
}

const boat = (name: string) => screen.getByRole('button', { name });
const order = () => screen.getAllByRole('button').map((each) => each.textContent);
const transfer = { types: [], setData: () => undefined, setDragImage: () => undefined };
const frame = () => act(() => new Promise<void>((wake) => requestAnimationFrame(() => wake())));

/** Dragged from one to another as a browser tells it. @param share how far into the other, from its left */
async function drag(from: Element, to: Element, share: number, more: MouseEventInit = {}) {
  const at = { clientX: to.getBoundingClientRect().left + share * 100, clientY: 10, dataTransfer: transfer, ...more };
  fireEvent.dragStart(from, { dataTransfer: transfer });
  await frame();
  fireEvent.dragEnter(to, at);
  fireEvent.dragOver(to, at);
  await frame();
  return {
    letGo: async () => {
      fireEvent.drop(to, at);
      fireEvent.dragEnd(from, at);
      await frame();
    },
    escape: async () => {
      fireEvent.dragEnd(from, { dataTransfer: transfer });
      await frame();
    },
  };
}

beforeEach(() => {
  cleanup();
  vi.clearAllMocks();
  // jsdom lays nothing out: boats lie where their name says.
  vi.spyOn(Element.prototype, 'getBoundingClientRect').mockImplementation(function (this: Element) {
    const left = Math.max(0, ['Ada', 'Bob', 'Cleo', 'Duck'].indexOf(this.textContent)) * 100;
    return { left, right: left + 100, top: 0, bottom: 20, width: 100, height: 20, x: left, y: 0 } as DOMRect;
  });
});

describe('things that are moved about', () => {
  it('show where they would land, and land there', async () => {
    render(<Harbour />);
    const moving = await drag(boat('Ada'), boat('Cleo'), 0.8);
    expect([boat('Cleo').dataset.over, boat('Ada').dataset.moving]).toEqual(['row after', '']);
    await moving.letGo();
    expect(order()).toEqual(['Bob', 'Cleo', 'Ada', 'Duck']);
    expect(boat('Cleo').dataset.over).toBeUndefined();
    expect(onBeside).not.toHaveBeenCalled();
  });
  it('before another where that side is nearer', async () => {
    render(<Harbour />);
    const moving = await drag(boat('Cleo'), boat('Ada'), 0.2);
    expect(boat('Ada').dataset.over).toBe('row before');
    await moving.letGo();
    expect(order()).toEqual(['Cleo', 'Ada', 'Bob', 'Duck']);
  });
  it('stay where they are when it is broken off', async () => {
    render(<Harbour />);
    const moving = await drag(boat('Ada'), boat('Cleo'), 0.8);
    await moving.escape();
    expect(order()).toEqual(['Ada', 'Bob', 'Cleo', 'Duck']);
    expect([boat('Cleo').dataset.over, boat('Ada').dataset.moving]).toEqual([undefined, undefined]);
  });
  it('land on their own kind only, and beside all of them in the room around', async () => {
    render(<Harbour />);
    const onDuck = await drag(boat('Bob'), boat('Duck'), 0.5);
    expect(boat('Duck').dataset.over).toBeUndefined();
    await onDuck.letGo();
    expect(onBeside.mock.calls).toEqual([['Bob', false]]);
    const copied = await drag(boat('Bob'), screen.getByTestId('room'), 0.5, { ctrlKey: true });
    await copied.letGo();
    expect(onBeside.mock.calls.at(-1)).toEqual(['Bob', true]);
    expect(order()).toEqual(['Ada', 'Bob', 'Cleo', 'Duck']);
  });
  it('that are fixed cannot be taken, but others may', () => {
    render(<Harbour isFixed />);
    expect([boat('Ada').draggable, boat('Duck').draggable]).toEqual([false, true]);
  });
});

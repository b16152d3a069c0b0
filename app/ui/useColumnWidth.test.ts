// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { expect, it } from 'vitest';
import { columnWidths, fittingWidth, setColumnWidth, toggleColumn, useColumnWidth } from './useColumnWidth';

it('the column leaves room for the page, whatever is asked for', () => {
  expect(fittingWidth(700, 1280)).toBe(700);
  expect(fittingWidth(900, 1280)).toBe(1280 - 420);
  expect(fittingWidth(4000, 3840)).toBe(columnWidths.most);
  expect(fittingWidth(10, 1280)).toBe(columnWidths.least);
});
it('is kept, made large and small again, and never wider than the window', () => {
  const { result } = renderHook(() => useColumnWidth());
  window.innerWidth = 1280;
  act(toggleColumn);
  expect(result.current).toBe(704);
  expect(localStorage.getItem('width of the column')).toBe('704');
  act(() => {
    window.innerWidth = 1024;
    window.dispatchEvent(new Event('resize'));
  });
  expect(result.current).toBe(604);
  act(toggleColumn);
  expect(result.current).toBe(columnWidths.usual);
  act(() => setColumnWidth(500));
  expect(result.current).toBe(500);
});

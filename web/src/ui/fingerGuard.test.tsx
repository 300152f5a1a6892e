import { describe, expect, it, vi } from 'vitest';
import { guardFinger, SAME_TAP_MS, writtenByTap } from './fingerGuard';

guardFinger();
const shields = () => document.querySelectorAll<HTMLElement>('[data-shield]');
const tap = (target: Element, x: number, y: number) =>
  target.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 1, clientX: x, clientY: y }));

describe('the place of a tap that writes', () => {
  it('takes no other tap for a moment, whatever lies under it by then', () => {
    vi.useFakeTimers();
    const key = document.createElement('button');
    document.body.append(key);
    tap(key, 100, 200);
    expect(shields()).toHaveLength(0);
    writtenByTap();
    expect(shields()).toHaveLength(1);
    expect(shields()[0]!.style.left).toBe('76px');
    vi.advanceTimersByTime(SAME_TAP_MS - 1);
    expect(shields()).toHaveLength(1);
    vi.advanceTimersByTime(1);
    expect(shields()).toHaveLength(0);
    vi.useRealTimers();
  });
  it('is covered at once under a main key, before anything is written', () => {
    vi.useFakeTimers();
    const key = document.createElement('button');
    key.className = 'key key-main';
    document.body.append(key);
    tap(key, 10, 10);
    expect(shields()).toHaveLength(1);
    vi.advanceTimersByTime(SAME_TAP_MS);
    vi.useRealTimers();
  });
  it('is nowhere where no finger was: what a round or the keyboard writes covers nothing', () => {
    vi.useFakeTimers();
    const key = document.createElement('button');
    document.body.append(key);
    key.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 0 }));
    writtenByTap();
    expect(shields()).toHaveLength(0);
    // A tap of long ago did not mean this.
    tap(key, 10, 10);
    vi.advanceTimersByTime(5000);
    writtenByTap();
    expect(shields()).toHaveLength(0);
    vi.useRealTimers();
  });
});

describe('a key that is held down', () => {
  const held = (target: Element, key: string) => {
    const event = new KeyboardEvent('keydown', { key, repeat: true, bubbles: true, cancelable: true });
    target.dispatchEvent(event);
    return event.defaultPrevented;
  };
  it('means one thing, and still types', () => {
    const [button, field, area] = ['button', 'input', 'textarea'].map((tag) => document.createElement(tag));
    document.body.append(button!, field!, area!);
    expect(held(button!, 'Enter')).toBe(true);
    expect(held(button!, ' ')).toBe(true);
    expect(held(field!, 'Enter')).toBe(true);
    expect(held(field!, ' ')).toBe(false);
    expect(held(area!, 'Enter')).toBe(false);
    expect(held(button!, 'ArrowDown')).toBe(false);
  });
});

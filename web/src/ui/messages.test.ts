import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { messageStore, toast } from './messages';

const texts = () => messageStore.list().map((m) => m.text);
beforeEach(() => {
  vi.useFakeTimers();
  for (const m of messageStore.list()) messageStore.dismiss(m.id);
});
afterEach(() => {
  vi.useRealTimers();
});

describe('the message line', () => {
  it('lets what went well make room for the next, and goes by itself', () => {
    toast.success('Saved.');
    toast('Taken back.');
    expect(texts()).toEqual(['Taken back.']);
    vi.advanceTimersByTime(10_000);
    expect(texts()).toEqual([]);
  });
  it('keeps what went wrong until it was read, each once', () => {
    toast.error('Price is not a price.');
    toast.error('Stock is not a number.');
    toast.error('Price is not a price.');
    toast.success('Saved.');
    vi.advanceTimersByTime(10_000);
    expect(texts()).toEqual(['Stock is not a number.', 'Price is not a price.']);
    messageStore.dismiss(messageStore.list()[0]!.id);
    expect(texts()).toEqual(['Price is not a price.']);
  });
  it('tells who listens, until they stop', () => {
    let told = 0;
    const stop = messageStore.subscribe(() => told++);
    toast('One.');
    expect(told).toBe(1);
    stop();
    toast('Two.');
    expect(told).toBe(1);
  });
});

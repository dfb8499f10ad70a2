/** @jest-environment jsdom */
import { neighboursOf, rememberOrder } from './neighbours';

afterEach(() => sessionStorage.clear());

it('knows what stands before and after a paper in the view it was opened from', () => {
  rememberOrder(['a', 'b', 'c']);
  expect(neighboursOf('a')).toEqual({ before: null, after: 'b' });
  expect(neighboursOf('b')).toEqual({ before: 'a', after: 'c' });
  expect(neighboursOf('c')).toEqual({ before: 'b', after: null });
});

it('knows none of a paper that was opened otherwise', () => {
  expect(neighboursOf('a')).toEqual({ before: null, after: null });
  rememberOrder(['a']);
  expect(neighboursOf('z')).toEqual({ before: null, after: null });
});

it('knows none where what is remembered is damaged', () => {
  sessionStorage.setItem('embrin-read-from', '{');
  expect(neighboursOf('a')).toEqual({ before: null, after: null });
});

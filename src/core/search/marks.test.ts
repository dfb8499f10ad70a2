import { marksIn } from './marks';

const marked = (name: string, query: string) => marksIn(name, query).map(([from, to]) => name.slice(from, to));

describe('what a query marks in a name', () => {
  it.each([
    ['Minutes of 12 May', 'min may', ['Min', 'May']],
    ['Café Marée Slipway', 'maree', ['Marée']],
    ['Cafe\u0301 Slipway', 'cafe', ['Cafe\u0301']],
    ['Anaïs O’Dowd', 'odowd', ['O’Dowd']],
    ['Invoice 0047', '47', ['47']],
    ['Appendix', 'xyz', []],
    ['Appendix', '', []],
  ])('%s, asked for %j', (name, query, marks) => {
    expect(marked(name, query)).toEqual(marks);
  });
});

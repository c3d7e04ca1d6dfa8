import { describe, expect, it } from 'vitest';
import { allNatives, nativesOf, OWN_CONTROLS, strays } from './native-elements.ts';

const found = allNatives();

describe('what the page stands on', () => {
  it('no native control outside the own ones that are listed with their reason', () =>
    expect(strays(found)).toEqual([]));

  it('the list of own controls names nothing that is gone', () => {
    for (const own of Object.keys(OWN_CONTROLS)) {
      expect(
        found.some(({ file }) => file === own || file.startsWith(own)),
        own,
      ).toBe(true);
    }
  });

  it('a new one is found; words of a script, a comment and Element Plus’s own are not', () => {
    const component = `<script setup>const a = '<button>'; const b = h('input', {}); h(ElInput);</script>
      <template><!-- <select> --><el-select /><el-button>a</el-button>
      <button
        type="button">b</button><input /><tablecloth /></template><style>table { }</style>`;
    expect([...nativesOf(component)]).toEqual([
      ['input', 2],
      ['button', 1],
    ]);
    expect(strays([{ file: 'features/links/New.vue', element: 'button', times: 1 }])).toHaveLength(1);
  });
});

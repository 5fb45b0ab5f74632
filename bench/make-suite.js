import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A generator of numbers from 0 to 1 that gives the same ones for the same seed (mulberry32). */
export function random(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

const WORDS = 'kiln lid shelf glaze cone vent board log meter chip card timer rack plan alarm'.split(' ');
const title = (word) => word[0].toUpperCase() + word.slice(1);

/** Writes a suite of made-up components and specs into a folder; equal for an equal seed. */
export function makeSuite(folder, { specFiles, components, seed }) {
  const next = random(seed);
  const pick = (list) => list[Math.floor(next() * list.length)];
  mkdirSync(folder, { recursive: true });
  const manifest = {
    name: 'bench',
    private: true,
    scripts: { test: 'vitest run' },
    devDependencies: { vitest: '^3', '@testing-library/react': '^16', '@vue/test-utils': '^2' },
  };
  writeFileSync(join(folder, 'package.json'), JSON.stringify(manifest));
  writeFileSync(
    join(folder, 'vitest.config.ts'),
    "export default { test: { environment: 'jsdom', globals: true } };\n",
  );
  const made = [];
  for (let i = 0; i < components; i++) {
    const name = `${title(pick(WORDS))}${title(pick(WORDS))}${i}`;
    const vue = i % 5 === 0;
    const place = join(folder, 'src', `area${i % 20}`);
    mkdirSync(place, { recursive: true });
    const child = made.findLast((each) => each.vue === vue && next() < 0.6);
    const from = child && `../area${child.i % 20}/${child.name}${vue ? '.vue' : ''}`;
    writeFileSync(
      join(place, `${name}.${vue ? 'vue' : 'tsx'}`),
      vue ? vueComponent(name, child?.name, from, pick) : reactComponent(name, child?.name, from, pick),
    );
    made.push({ name, vue, i });
  }
  for (let i = 0; i < specFiles; i++) {
    const { name, vue, i: at } = made[i % made.length];
    const place = join(folder, 'src', `area${at % 20}`);
    const suffix = i < made.length ? '' : `.${Math.floor(i / made.length)}`;
    writeFileSync(
      join(place, `${name}${suffix}.spec.${vue ? 'ts' : 'tsx'}`),
      vue ? vueSpecs(name, pick, next) : reactSpecs(name, pick, next),
    );
  }
}

function reactComponent(name, child, from, pick) {
  const word = pick(WORDS);
  return `import { useState } from 'react';
${child ? `import { ${child} } from '${from}';\n` : ''}
export interface ${name}Props { name: string; temp?: number; items?: string[]; onFire?: (name: string) => void }

export function ${name}({ name, temp = 20, items = [], onFire, ...rest }: ${name}Props) {
  const [open, setOpen] = useState(false);
  if (temp > 1300) return <p role="alert">The ${word} is too hot</p>;
  return (
    <section className={clsx('${word}', open && '${word}--open')} aria-label={name} {...rest}>
      <h3 className="${word}__title">{name}</h3>
      <button type="button" className="${word}__toggle" onClick={() => setOpen(!open)}>{open ? 'Close' : 'Open'}</button>
      <label htmlFor="${word}-note">Note</label>
      <input id="${word}-note" placeholder="A note for the ${word}" />
      {open && <ul>{items.map((item) => <li key={item}>{item}</li>)}</ul>}
      ${child ? `<${child} name="${pick(WORDS)}" temp={temp} />` : ''}
      <button type="button" disabled={temp > 600} onClick={() => onFire?.(name)}>Fire the ${word}</button>
    </section>
  );
}
`;
}

function vueComponent(name, child, from, pick) {
  const word = pick(WORDS);
  return `<script setup lang="ts">
import { ref, computed } from 'vue';
${child ? `import ${child} from '${from}';` : ''}
const props = withDefaults(defineProps<{ name: string; temp?: number; items?: string[] }>(), { temp: 20 });
const emit = defineEmits<{ fire: [name: string] }>();
const open = ref(false);
const label = computed(() => (open.value ? 'Close' : 'Open'));
</script>

<template>
  <section class="${word}" :class="{ '${word}--open': open }" :aria-label="props.name">
    <h3 class="${word}__title">{{ props.name }}</h3>
    <button type="button" class="${word}__toggle" @click="open = !open">{{ label }}</button>
    <ul v-if="open"><li v-for="item in props.items" :key="item">{{ item }}</li></ul>
    ${child ? `<${child} :name="props.name" :temp="props.temp" />` : ''}
    <p v-else-if="props.temp > 600" class="${word}__hot">Too hot</p>
    <button type="button" class="${word}__fire" @click="emit('fire', props.name)">Fire</button>
  </section>
</template>
`;
}

function reactSpecs(name, pick, next) {
  const count = 4 + Math.floor(next() * 8);
  const specs = Array.from(
    { length: count },
    (_, i) => `
  it('${pick(['opens', 'fires', 'shows', 'hides'])} the ${pick(WORDS)} ${i}', async () => {
    const user = userEvent.setup();
    const onFire = vi.fn();
    const { container } = show({ temp: ${Math.floor(next() * 1400)}, onFire });
    await user.click(screen.getByRole('button', { name: 'Open' }));
    ${next() < 0.3 ? `expect(container.querySelector('.${pick(WORDS)}__title')).toHaveTextContent('Big Bertha');` : `expect(screen.getByText('Big Bertha')).toBeInTheDocument();`}
    expect(screen.queryByText('${pick(WORDS)}')).not.toBeInTheDocument();
    expect(onFire).not.toHaveBeenCalled();
  });`,
  );
  return `import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { ${name} } from './${name}';

const kilns = new Map([['Big Bertha', 20]]);
const show = (props = {}) => render(<${name} name="Big Bertha" items={['bowl', 'mug']} {...props} />);

describe('${name}', () => {
  afterEach(() => vi.restoreAllMocks());
${specs.join('\n')}
});
`;
}

function vueSpecs(name, pick, next) {
  const count = 4 + Math.floor(next() * 8);
  const specs = Array.from(
    { length: count },
    (_, i) => `
  it('${pick(['opens', 'fires', 'shows', 'hides'])} the ${pick(WORDS)} ${i}', async () => {
    await wrapper.find('button').trigger('click');
    expect(wrapper.find('.${pick(WORDS)}__title').text()).toBe('Big Bertha');
    expect(wrapper.emitted('fire')).toBeUndefined();
    expect(wrapper.find('ul').exists()).toBe(true);
  });`,
  );
  return `import { mount } from '@vue/test-utils';
import { beforeEach, describe, expect, it } from 'vitest';
import ${name} from './${name}.vue';

describe('${name}', () => {
  let wrapper: ReturnType<typeof mount>;
  beforeEach(() => {
    wrapper = mount(${name}, { props: { name: 'Big Bertha', items: ['bowl'] } });
  });
${specs.join('\n')}
});
`;
}

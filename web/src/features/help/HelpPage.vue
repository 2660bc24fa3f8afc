<script setup lang="ts">
import { PART_KINDS } from '@calm/core/part/index'
import { PROCEDURES } from '@calm/core/procedure/catalogue'
import type { Procedure } from '@calm/core/procedure/step'
import { computed } from 'vue'
import { DOES_NOT, TOPICS } from './topics.ts'
import { WORDS } from './words.ts'

/** How to work with it: each bench on one page, the words, the keys, and what it does not do. */
const { topic = '' } = defineProps<{ topic?: string }>()
const LISTS = [
  { id: 'procedures', title: 'Procedures' },
  { id: 'parts', title: 'Parts for a wiring' },
  { id: 'words', title: 'Words' },
  { id: 'keys', title: 'Keys' },
] as const
const page = computed(() => TOPICS.find((t) => t.id === topic) ?? null)
const KEYS = [
  ['/', 'Search'],
  ['?', 'The keys of this screen'],
  ['w s c t v r', 'Wire, Set up, Scale, Trim, Verify, Record of the open loop'],
  ['0 1 2 3 4', 'Process to 0, 25, 50, 75, 100 %'],
  ['o', 'Open the signal path, or make it small'],
  ['n', 'Wire: to the first terminal; arrow keys go on'],
  ['p', 'Wire: power on or off'],
  ['+ − f', 'Wire: larger, smaller, fit'],
  ['Ctrl+Z, Ctrl+Y', 'Wire: undo, redo'],
  ['Delete', 'Wire: take out what is chosen'],
  ['Enter', 'Verify: to the next reading'],
  ['l q i d', 'Loops, Quick sums, Instruments, Drift'],
] as const
/** What is applied with depends on the loop; there it is told by name. */
const atHand = ({ tools }: Procedure): string =>
  typeof tools === 'function' ? 'what the loop’s input is applied with, told on the loop' : tools.join('; ')
</script>

<template>
  <div class="page help">
    <nav aria-label="Help">
      <router-link to="/help" class="topic" exact-active-class="here">Help</router-link>
      <router-link
        v-for="t in [...TOPICS, ...LISTS]"
        :key="t.id"
        :to="`/help/${t.id}`"
        class="topic"
        active-class="here"
        >{{ t.title }}</router-link
      >
    </nav>
    <article v-if="page" class="stack">
      <h1>{{ page.title }}</h1>
      <p class="lead">{{ page.for }}</p>
      <ol>
        <li v-for="s in page.steps" :key="s">{{ s }}</li>
      </ol>
      <figure v-if="page.picture">
        <img :src="page.picture.url" :alt="page.picture.says" loading="lazy" width="1280" height="800" />
        <figcaption class="quiet small">{{ page.picture.says }}</figcaption>
      </figure>
      <h2>What it judges, and what that rests on</h2>
      <dl>
        <template v-for="j in page.judges" :key="j.what">
          <dt>{{ j.what }}</dt>
          <dd>rests on {{ j.restsOn }}.</dd>
        </template>
      </dl>
      <h2>What it does not do</h2>
      <ul>
        <li v-for="n in page.not" :key="n">{{ n }}</li>
      </ul>
    </article>
    <article v-else-if="topic === 'words'" class="stack">
      <h1>Words</h1>
      <p class="lead">One word for one thing, on every screen and every paper.</p>
      <dl>
        <template v-for="w in WORDS" :key="w.word">
          <dt>{{ w.word }}</dt>
          <dd>{{ w.means }}</dd>
        </template>
      </dl>
    </article>
    <article v-else-if="topic === 'procedures'" class="stack">
      <h1>Procedures</h1>
      <p class="lead">Guided on the Trim bench of a loop, with the cautions in their place.</p>
      <section v-for="p in PROCEDURES" :id="p.id" :key="p.id">
        <h2>
          {{ p.title }} <span class="quiet small">about {{ p.minutes }} min</span>
        </h2>
        <p>{{ p.purpose }}</p>
        <p class="quiet">At hand: {{ atHand(p) }}.</p>
      </section>
    </article>
    <article v-else-if="topic === 'parts'" class="stack">
      <h1>Parts for a wiring</h1>
      <p class="lead">Each is solved as it is, from what its label says.</p>
      <dl>
        <template v-for="k in PART_KINDS" :key="k.kind">
          <dt>{{ k.title }}</dt>
          <dd>{{ k.settings.length > 0 ? k.settings.map((s) => s.title).join(', ') : 'Nothing to set.' }}</dd>
        </template>
      </dl>
    </article>
    <article v-else-if="topic === 'keys'" class="stack">
      <h1>Keys</h1>
      <p class="lead">Single keys work where nothing else can take them. They are switched off in “Keys”.</p>
      <dl>
        <template v-for="[key, does] in KEYS" :key="key">
          <dt class="mono">{{ key }}</dt>
          <dd>{{ does }}</dd>
        </template>
      </dl>
    </article>
    <article v-else class="stack">
      <h1>Help</h1>
      <p class="lead">
        Calm Loop takes a measuring loop from the drawing and the nameplate to a signed record: wire it, set
        it up, scale it, trim it, verify it.
      </p>
      <h2>Four inks for four kinds of number</h2>
      <dl>
        <dt>12.000 mA</dt>
        <dd>Computed: it follows from what was entered.</dd>
        <dt class="typed">12.000 mA</dt>
        <dd>Typed by a person. Outlined: a typical value that nobody has confirmed.</dd>
        <dt class="measured">12.000 mA</dt>
        <dd>Measured in the world.</dd>
        <dt class="simulated">12.000 mA</dt>
        <dd>Simulated: from a stand-in.</dd>
      </dl>
      <h2>What the product leaves to others</h2>
      <ul>
        <li v-for="n in DOES_NOT" :key="n">{{ n }}</li>
      </ul>
      <p><router-link to="/about">Which version this is, and how it is running</router-link></p>
    </article>
  </div>
</template>

<style scoped>
.help {
  display: grid;
  grid-template-columns: 190px minmax(0, 760px);
  gap: 32px;
  align-items: start;
}
nav {
  display: flex;
  flex-direction: column;
  position: sticky;
  top: 20px;
}
.topic {
  min-height: 44px;
  padding: 10px 12px;
  color: var(--ink);
  text-decoration: none;
  border-left: 3px solid transparent;
}
.here {
  border-left-color: var(--accent);
  font-weight: 600;
}
.lead {
  font-size: var(--size-l);
}
ol,
ul {
  padding-left: 22px;
}
li {
  padding: 3px 0;
}
img {
  width: 100%;
  height: auto;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
dl {
  display: grid;
  grid-template-columns: minmax(120px, 220px) minmax(0, 1fr);
  gap: 8px 20px;
}
dt {
  font-weight: 600;
}
.typed {
  color: var(--accent);
  text-decoration: underline;
}
.simulated {
  color: var(--simulated);
  text-decoration: underline dotted;
}
@media (max-width: 900px) {
  .help {
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }
  nav {
    position: static;
    flex-direction: row;
    flex-wrap: wrap;
  }
}
@media (max-width: 640px) {
  dl {
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
  }
  dd {
    padding-bottom: 8px;
  }
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Plate } from '@/api/types'
import { bytes, words } from '@/wording/format'
import { grows, nested, scattered, type Loss, type Part, type Site } from './loss'

/** Where copies lie: regions hold sites hold what fails together. Press one to lose it, press again to have it back. */
const props = defineProps<{ plates: Plate[]; loss: Loss }>()
const emit = defineEmits<{ press: [part: Part, name: string] }>()

const regions = computed(() => nested(props.plates))
const domains = computed(() => scattered(props.plates))
const width = (stores: Plate[]) => stores.reduce((n, p) => n + grows(p), 0)
const siteWidth = (s: Site) => s.groups.reduce((n, g) => n + width(g.stores), 0)

function said(p: Plate): string {
  const state = p.lost ? 'lost' : 'there'
  const domain = p.domain.startsWith('store:') ? '' : `, failure domain ${p.domain}`
  return `${p.name}: ${words(p.medium)}${p.online === false ? ', offline' : ''}${domain}, ${bytes(p.bytes)} of copies; ${state}`
}
</script>

<template>
  <div class="plates">
    <section
      v-for="r in regions"
      :key="r.region"
      class="region"
      :style="{ flexGrow: r.sites.reduce((n, s) => n + siteWidth(s), 0) }"
    >
      <button
        v-if="r.region"
        class="title"
        :aria-pressed="loss.region.includes(r.region)"
        :title="`Lose the region ${r.region}`"
        @click="emit('press', 'region', r.region)"
      >
        region {{ r.region }}
      </button>
      <p v-else class="title quiet">region not known</p>
      <div class="sites">
        <div v-for="s in r.sites" :key="s.site" class="site" :style="{ flexGrow: siteWidth(s) }">
          <button
            v-if="s.site"
            class="title"
            :aria-pressed="loss.site.includes(s.site)"
            :title="`Lose the site ${s.site}`"
            @click="emit('press', 'site', s.site)"
          >
            {{ s.site }}
          </button>
          <p v-else class="title quiet">site not known</p>
          <div class="stores">
            <div
              v-for="g in s.groups"
              :key="g.stores[0]?.key"
              :class="g.domain ? 'domain' : 'alone'"
              :style="{ flexGrow: width(g.stores) }"
            >
              <button
                v-if="g.domain"
                class="title"
                :aria-pressed="loss.domain.includes(g.domain)"
                :title="`Lose the failure domain ${g.domain}: all that fails with it`"
                @click="emit('press', 'domain', g.domain)"
              >
                {{ g.domain }}
              </button>
              <div class="stores">
                <button
                  v-for="p in g.stores"
                  :key="p.key"
                  class="store"
                  :class="{ lost: p.lost }"
                  :style="{ flexGrow: grows(p) }"
                  :aria-pressed="loss.store.includes(p.key)"
                  :title="said(p)"
                  @click="emit('press', 'store', p.key)"
                >
                  <b>{{ p.name }}</b>
                  <span class="small"
                    >{{ words(p.medium) }}{{ p.online === false ? ', offline' : ''
                    }}{{ p.lost ? ' · lost' : '' }}</span
                  >
                  <span class="mono small">{{ bytes(p.bytes) }}</span>
                </button>
              </div>
            </div>
          </div>
        </div>
      </div>
    </section>
  </div>
  <p v-if="domains.length" class="small domains">
    <span class="quiet">They fail together, at several sites:</span>
    <button
      v-for="d in domains"
      :key="d.domain"
      class="chip"
      :aria-pressed="loss.domain.includes(d.domain)"
      :title="`Lose ${d.stores.join(' and ')}`"
      @click="emit('press', 'domain', d.domain)"
    >
      {{ d.domain }} <span class="quiet">({{ d.stores.join(', ') }})</span>
    </button>
  </p>
</template>

<style scoped>
.plates,
.sites,
.stores {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.region {
  flex: 1 1 200px;
  border: 1px solid var(--rule-strong);
  padding: 4px 8px 8px;
}
.site {
  display: flex;
  flex: 1 1 120px;
  flex-direction: column;
  border: 1px dashed var(--rule-strong);
  padding: 2px 6px 6px;
}
.site > .stores {
  flex: 1;
}
.domain {
  flex: 1 1 250px;
  border: 1px dotted var(--rule-strong);
  padding: 0 6px 6px;
}
.alone {
  display: grid;
  flex: 1 1 110px;
}
.title {
  display: block;
  min-height: 24px;
  padding: 0 4px;
  margin: 0;
  border: 0;
  background: none;
  color: inherit;
  font: 500 12px var(--sans);
  text-align: left;
  cursor: pointer;
}
p.title {
  cursor: default;
  line-height: 24px;
}
.title[aria-pressed='true'] {
  text-decoration: line-through;
  color: var(--disproven);
}
.store {
  flex: 1 1 110px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  min-height: 58px;
  padding: 4px 8px;
  border: 1px solid var(--ink);
  background: var(--sheet);
  color: inherit;
  font: 13px/1.35 var(--sans);
  text-align: left;
  cursor: pointer;
}
.store.lost {
  border-color: var(--disproven);
  background: repeating-linear-gradient(
    -45deg,
    transparent 0 5px,
    color-mix(in srgb, var(--disproven) 22%, transparent) 5px 7px
  );
}
.store.lost b {
  text-decoration: line-through;
}
.domains {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  margin: 8px 0 0;
}
.chip {
  min-height: 24px;
  padding: 0 8px;
  border: 1px solid var(--rule-strong);
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.chip[aria-pressed='true'] {
  border-color: var(--disproven);
  text-decoration: line-through;
}
</style>

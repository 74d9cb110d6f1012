<script setup lang="ts">
import type { Verdict } from '@/api/types'

/** The word of a verdict with its own glyph, so that it is never told by colour alone. */
defineProps<{ verdict: Verdict; glyphOnly?: boolean }>()
</script>

<template>
  <span class="verdict" :class="verdict">
    <svg viewBox="0 0 16 16" width="15" height="15" aria-hidden="true">
      <path v-if="verdict === 'proven'" d="M2 8.5l4 4 8-9" class="heavy" />
      <path v-else-if="verdict === 'lapsed'" d="M8 1.5a6.5 6.5 0 1 0 .01 0M8 4v4.5l3 2" />
      <circle v-else-if="verdict === 'unproven'" cx="8" cy="8" r="6.2" stroke-dasharray="2.2 2.4" />
      <path v-else-if="verdict === 'disproven'" d="M3 3l10 10M13 3L3 13" class="heavy" />
      <path v-else-if="verdict === 'exposed'" d="M2 13l3.5-9 3 6 2.5-8 3 11" />
      <rect
        v-else-if="verdict === 'uncovered'"
        x="2"
        y="2"
        width="12"
        height="12"
        stroke-dasharray="3 2.6"
        class="heavy"
      />
      <circle
        v-else-if="verdict === 'excluded'"
        cx="8"
        cy="8"
        r="6"
        stroke-dasharray="0.5 2.6"
        stroke-linecap="round"
      />
      <path v-else d="M2 14L14 2M2 8l6-6M8 14l6-6" />
    </svg>
    <span :class="{ 'visually-hidden': glyphOnly }" class="word">{{ verdict }}</span>
  </span>
</template>

<style scoped>
.verdict {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  font-weight: 600;
  white-space: nowrap;
}
.word::first-letter {
  text-transform: uppercase;
}
.word {
  display: inline-block;
}
svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
  flex: none;
}
.heavy {
  stroke-width: 2.2;
}
.proven {
  color: var(--proven);
}
.lapsed {
  color: var(--lapsed);
}
.unproven {
  color: var(--unproven);
}
.disproven {
  color: var(--disproven);
}
.exposed {
  color: var(--exposed);
}
.uncovered {
  color: var(--uncovered);
}
.excluded {
  color: var(--excluded);
}
.unknown {
  color: var(--unknown);
}
</style>

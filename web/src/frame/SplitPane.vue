<script setup lang="ts">
import { usePane } from './usePane'

/** A list, and beside it, as wide as people drag it, what is open of it. */
defineProps<{
  /** What the list is called. */
  list: string
  /** What is beside it is called. */
  beside: string
  open: boolean
}>()

const pane = usePane()
</script>

<template>
  <div class="split-pane">
    <section class="list" :aria-label="list"><slot /></section>
    <template v-if="open">
      <div
        class="divider"
        role="separator"
        aria-orientation="vertical"
        :aria-label="`Width of the ${beside.toLowerCase()}`"
        tabindex="0"
        :aria-valuenow="pane.width.value"
        @pointerdown="pane.drag"
        @keydown.left.stop.prevent="pane.grow(24)"
        @keydown.right.stop.prevent="pane.grow(-24)"
      />
      <aside class="beside" :style="{ width: `${pane.width.value}px` }" :aria-label="beside">
        <slot name="beside" />
      </aside>
    </template>
  </div>
</template>

<style scoped>
.split-pane {
  display: flex;
  height: 100%;
}
.list {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  container-type: inline-size;
}
.divider {
  width: 5px;
  margin: 0 -2px;
  cursor: col-resize;
  z-index: 1;
}
.beside {
  flex: none;
  border-left: 1px solid var(--rule-strong);
  background: var(--sheet);
  overflow: auto;
}
@media (max-width: 900px) {
  .divider {
    display: none;
  }
  .beside {
    position: fixed;
    inset: 46px 0 0;
    width: auto !important;
    z-index: 5;
  }
}
</style>

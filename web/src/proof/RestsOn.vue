<script setup lang="ts">
import { computed } from 'vue'
import Moment from '@/frame/Moment.vue'
import type { BoardView } from '@/api/types'

/** The oldest instant that the Board rests on: what happened after it nobody has told of. */
const props = defineProps<{ board: BoardView }>()
const silentMs = computed(() => Date.parse(props.board.asAt) - Date.parse(props.board.horizon))
</script>

<template>
  <span v-if="silentMs >= 60_000" class="quiet">
    · By facts until <Moment :at="board.horizon" />, when the most silent feed last spoke.
  </span>
</template>

<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { Button } from 'ant-design-vue'
import { computed, shallowRef } from 'vue'
import { counted } from '../../core/words/figures'
import { type Lack, type World, haveHandles, lackingIn } from '../../storage/abilities'
import NoticeBar from './NoticeBar.vue'

/** What this browser lacks, named once, with what is done instead. */
const lacks = shallowRef<readonly Lack[]>([])
void haveHandles().then((has) => (lacks.value = lackingIn(window as unknown as World, has)))
const known = useLocalStorage<string[]>('lacks-known', [])
const news = computed(() => lacks.value.filter(({ what }) => !known.value.includes(what)))
const understood = () => (known.value = lacks.value.map(({ what }) => what))
</script>

<template>
  <NoticeBar v-if="news.length" role="status">
    <b>This browser lacks {{ counted(news.length, 'thing') }}.</b>
    <span v-for="{ what, instead } in news" :key="what" class="lack">{{ what }}: {{ instead }}.</span>
    <template #ways><Button size="small" @click="understood">Good</Button></template>
  </NoticeBar>
</template>

<style scoped>
.lack {
  display: block;
}
</style>

<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { ref } from 'vue'
import { useOffline } from '../offline'
import NoticeBar from './NoticeBar.vue'

/** A new version is offered; the one that is open goes on until it is taken. */
const offline = useOffline()
const later = ref(false)
</script>

<template>
  <NoticeBar v-if="offline.isOld" role="status">
    <b>Another tab took a new version.</b> Load this one anew when it suits; everything is on disk before it
    does.
    <template #ways><Button size="small" @click="offline.take()">Load anew</Button></template>
  </NoticeBar>
  <NoticeBar v-else-if="offline.waits && !later" role="status">
    <b>A new version is here.</b> Take it when it suits; everything is on disk before it loads.
    <template #ways>
      <Button size="small" @click="offline.take()">Take it</Button>
      <Button size="small" @click="later = true">Later</Button>
    </template>
  </NoticeBar>
</template>

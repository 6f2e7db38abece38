<script setup lang="ts">
/** A page that is read on screen and printed without what surrounds it. */
</script>

<template>
  <div class="page">
    <div class="bar no-print"><slot name="bar" /></div>
    <slot />
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  overflow: auto;
  padding: 20px 32px;
}
.bar {
  display: flex;
  justify-content: space-between;
  padding-bottom: 12px;
}
</style>

<style>
@media print {
  .no-print,
  .house > header {
    display: none !important;
  }
  html,
  body,
  #app,
  .house,
  .page {
    height: auto !important;
    overflow: visible !important;
    display: block !important;
    background: #fff !important;
  }
}
</style>

<script setup lang="ts">
import { Button } from 'ant-design-vue'
import { stamp } from '../../dates'
import { formatName } from '../../../core/format/format'
import { useProject } from '../../../stores/document/project'
import PrintedSheet from '../../components/PrintedSheet.vue'
import DecisionList from './DecisionList.vue'

/** The decision log as a sheet to be printed. */
const project = useProject()
const print = () => window.print()
</script>

<template>
  <PrintedSheet>
    <template #bar>
      <RouterLink :to="{ name: 'yard' }">back to the Yard</RouterLink>
      <Button type="primary" @click="print">Print</Button>
    </template>
    <h1>{{ project.opened.project.name }}: decisions on the format</h1>
    <p class="quiet">
      {{ project.format ? `Project format ${formatName(project.format)}.` : 'No project format yet.' }}
      {{ stamp() }}
    </p>
    <DecisionList />
  </PrintedSheet>
</template>

<script setup lang="ts">
import { Button, Checkbox, Dropdown, Input } from 'ant-design-vue'
import NativeSelect from '../../components/NativeSelect.vue'
import { type Grouping, columns, groupings } from '../../../core/inspect/columns'

/** How the list is looked at: what is found, in which groups, with which columns; and the ways out of it. */
const query = defineModel<string>('query', { required: true })
const grouping = defineModel<Grouping | ''>('grouping', { required: true })
const chosen = defineModel<string[]>('chosen', { required: true })
defineEmits<{ csv: [] }>()

function toggle(id: string) {
  const on = new Set(chosen.value)
  if (!on.delete(id)) on.add(id)
  // In the order of all columns, whatever the order of choosing.
  chosen.value = columns.map((column) => column.id).filter((column) => column === 'name' || on.has(column))
}
</script>

<template>
  <div class="bar">
    <Input
      v-model:value="query"
      allow-clear
      placeholder="find by name or fact: 50p, interlaced, 10 bit, alpha, differs, contradicts …"
      aria-label="Find clips by name or fact"
    />
    <NativeSelect
      v-model:value="grouping"
      aria-label="Group by"
      class="grouping"
      :options="[
        { value: '', label: 'no groups' },
        ...groupings.map((value) => ({ value, label: `by ${value}` })),
      ]"
    />
    <Dropdown :trigger="['click']">
      <Button>columns</Button>
      <template #overlay>
        <div class="menu">
          <Checkbox
            v-for="column in columns.slice(1)"
            :key="column.id"
            :checked="chosen.includes(column.id)"
            @change="toggle(column.id)"
            >{{ column.title }}</Checkbox
          >
        </div>
      </template>
    </Dropdown>
    <Button @click="$emit('csv')">CSV</Button>
    <RouterLink class="sheet-link" :to="{ name: 'inspection' }">inspection sheet</RouterLink>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-right: 16px;
}
.grouping {
  width: 116px;
  flex: none;
}
.menu {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--line);
}
.menu :deep(.ant-checkbox-wrapper) {
  margin: 0;
}
.sheet-link {
  white-space: nowrap;
}
</style>

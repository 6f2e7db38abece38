<script setup lang="ts">
import { Modal } from 'ant-design-vue'
import licences from '../../../../docs/licences.md?raw'
import { version } from '../../../../package.json'

const open = defineModel<boolean>('open', { required: true })

/** The rows of the list that the lock file makes: package, version, licence. */
const shipped = licences
  .split('\n')
  .filter((line) => line.startsWith('| '))
  .slice(1)
  .map((line) =>
    line
      .split('|')
      .map((cell) => cell.trim())
      .slice(1, 4),
  )
</script>

<template>
  <Modal v-model:open="open" title="About Yard Tally" :footer="null" :width="560">
    <p>
      Version {{ version }}. Free software under the GNU General Public License, version 3 or any later
      version, without any warranty.
    </p>
    <p class="quiet">
      Nothing leaves this machine: files are read and measured here. It is made with {{ shipped.length }}
      packages, under these terms:
    </p>
    <div class="list" tabindex="0" role="region" aria-label="Packages and their licences">
      <table>
        <tbody>
          <tr v-for="[name, edition, licence] in shipped" :key="`${name} ${edition}`">
            <th scope="row">{{ name }}</th>
            <td>{{ edition }}</td>
            <td>{{ licence }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </Modal>
</template>

<style scoped>
p + p,
.list {
  margin-top: 10px;
}
.list {
  max-height: 320px;
  overflow: auto;
  border-top: 1px solid var(--line);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  text-align: left;
}
th,
td {
  padding: 3px 12px 3px 0;
}
</style>

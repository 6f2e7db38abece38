<script setup lang="ts">
import { Button, Input } from 'ant-design-vue'
import { computed, onMounted, ref } from 'vue'
import { counted, fileSize, percent } from '../../../core/words/figures'
import { useBrowserStorage } from '../../../stores/browser-storage'
import { useProject } from '../../../stores/document/project'
import { useProjects } from '../../../stores/projects'
import FileButton from '../../components/FileButton.vue'
import { fileNameOf } from '../../../core/words/file-name'
import { download } from '../../download'
import { askForFolder, givesFolders } from '../../folder'
import RecentProject from './RecentProject.vue'
import RestoreSheet from './RestoreSheet.vue'

/** The projects that this browser keeps: found, opened, named, copied, deleted, backed up; and how well they are kept. */
const project = useProject()
const projects = useProjects()
const browserStorage = useBrowserStorage()
const restoring = ref<File | null>(null)
onMounted(() => {
  void projects.list()
  void browserStorage.measure()
  void projects.findFolder()
})

async function backUp(ids: readonly string[], name: string) {
  download(`${fileNameOf(name)}_backup.json`, await projects.backUp(ids), 'application/json')
}
const all = () =>
  backUp(
    project.entries.map(({ id }) => id),
    `${project.entries.length}_projects`,
  )

async function chooseFolder() {
  const handle = await askForFolder()
  if (handle) await projects.chooseFolder(handle)
}
const room = computed(() => {
  const { room } = browserStorage
  if (!room) return 'The browser does not tell how much it keeps.'
  const used = `${fileSize(room.usedBytes)} kept here, ${percent(room.usedBytes / Math.max(1, room.roomBytes))} of the room.`
  return room.persisted
    ? `${used} They stay until you delete them.`
    : `${used} The browser may clear them when the disk gets full.`
})
</script>

<template>
  <section aria-labelledby="kept">
    <div class="head">
      <h2 id="kept">Kept in this browser</h2>
      <span class="quiet">{{ counted(project.entries.length, 'project') }}</span>
      <Input
        v-if="project.entries.length > 3"
        v-model:value="projects.query"
        class="find"
        size="small"
        placeholder="find a project"
        aria-label="Find a project"
      />
      <span class="end" />
      <Button size="small" :disabled="project.entries.length === 0" @click="all">Back up all</Button>
      <FileButton small accept=".json,application/json" name="Backup" @file="restoring = $event"
        >Restore…</FileButton
      >
    </div>
    <p v-if="projects.trouble" role="alert" class="severe">{{ projects.trouble }}</p>
    <p v-if="projects.deleted" role="status" class="gone">
      “{{ projects.deleted.name }}” is deleted; until this page closes it can be brought back.
      <Button size="small" @click="projects.bringBack">Bring it back</Button>
    </p>
    <ul>
      <li v-for="entry in projects.found" :key="entry.id">
        <RecentProject
          :entry="entry"
          @rename="(name) => projects.rename(entry.id, name)"
          @duplicate="projects.duplicate(entry.id, entry.name)"
          @back-up="backUp([entry.id], entry.name)"
          @remove="projects.remove(entry.id, entry.name)"
        />
      </li>
      <li v-if="projects.found.length === 0 && project.entries.length" class="quiet none">
        None is called so.
      </li>
    </ul>
    <p class="quiet small">
      {{ room }}
      <button
        v-if="browserStorage.room && !browserStorage.room.persisted"
        class="word"
        @click="browserStorage.ask"
      >
        ask it to keep them
      </button>
      <template v-if="givesFolders">
        <template v-if="projects.folderStands === 'none'">
          Backups by themselves:
          <button class="word" @click="chooseFolder">choose a folder…</button>
        </template>
        <template v-else-if="projects.folderStands === 'asks'">
          The folder for backups, {{ projects.folder?.name }}, has to be allowed again:
          <button class="word" @click="projects.allowFolder">allow it</button>
        </template>
        <template v-else>
          Backups go to the folder {{ projects.folder?.name || 'chosen' }}, the last ten of each.
          <button class="word" @click="projects.chooseFolder(null)">no more</button>
        </template>
      </template>
    </p>
    <RestoreSheet v-if="restoring" :file="restoring" @close="restoring = null" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 10px;
  align-items: center;
}
.find {
  width: 180px;
}
.end {
  margin-left: auto;
}
ul {
  list-style: none;
  margin-top: 8px;
}
li {
  border-top: 1px solid var(--line);
}
.none {
  padding: 10px 0;
}
.gone {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 8px;
}
.small {
  font-size: 12px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
</style>

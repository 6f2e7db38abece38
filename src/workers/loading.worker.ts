import { expose } from 'comlink'
import { loadingServiceOffPage } from './loading-service'

expose(loadingServiceOffPage)

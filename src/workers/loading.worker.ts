import { expose } from 'comlink'
import { loading } from './loading-service'

expose(loading)

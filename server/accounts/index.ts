export { deleteOldSessions, findAccount, hasMilestone, setMilestone } from './account-rows'
export {
  type Account,
  accountOf,
  accountOfSessionName,
  beginSession,
  endSession,
  knownBrowserOf,
  sessionName,
  sessionToken,
  signIn,
  signUp,
} from './accounts'

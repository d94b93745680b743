export { deleteOldSessions, findAccount, hasMilestone, nameOf, setMilestone } from './account-rows'
export {
  type Account,
  accountOf,
  accountOfSessionName,
  beginSession,
  endSession,
  knownBrowserOf,
  originOf,
  sessionName,
  sessionToken,
  signIn,
  signUp,
} from './accounts'
export {
  changePassword,
  endOneSession,
  endOtherSessions,
  leaveAccount,
  listSessions,
  type OwnSession,
  setName,
} from './own-account'

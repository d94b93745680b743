export { deleteOldSessions, findAccount, hasMilestone, nameOf, setMilestone } from './account-rows'
export {
  type Account,
  accountOf,
  accountOfSessionName,
  beginSession,
  endSession,
  knownBrowserOf,
  originOf,
  secondStepCookie,
  secondStepOf,
  sessionName,
  sessionToken,
  signIn,
  signUp,
} from './accounts'
export {
  askForAddress,
  choosePassword,
  deleteOldLinks,
  forgotPassword,
  isPasswordLink,
  passwordLink,
  takeAddress,
} from './mailed-links'
export { sendsMail } from './mail'
export { accountLink, askedAddress, askForAccount, makeAccount } from './new-accounts'
export {
  accountWaiting,
  beginSecondStep,
  confirmSecondStep,
  dropSecondStep,
  endSecondStep,
  resealSecondSteps,
  secondStepState,
  type StepToSetUp,
  takeSecondStep,
  waitForSecondStep,
} from './second-step'
export {
  changePassword,
  endAllSessions,
  endOneSession,
  endOtherSessions,
  leaveAccount,
  listSessions,
  type OwnSession,
  setName,
} from './own-account'

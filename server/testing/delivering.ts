/**
 * A process that does nothing but deliver, as one of several over one database does. For tests that kill it, and for
 * measuring how the work is shared. Ends with whoever started it.
 */
import { deliveryWorker } from '../deliveries/sending/worker'

process.once('disconnect', () => process.exit(0))
deliveryWorker()
process.send?.('ready')

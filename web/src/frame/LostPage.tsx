import { isRouteErrorResponse, useRouteError } from 'react-router'
import { Button, LinkButton } from '../ui/Button'
import { Page } from '../ui/Page'
import { Empty } from '../ui/States'

/** How browsers say that a view's code could not be fetched. */
const NOT_FETCHED = /imported module|module script/i

/** For addresses that lead nowhere, and for views that broke. */
export function LostPage() {
  const error = useRouteError()
  const broke = error !== undefined && error !== null && !isRouteErrorResponse(error)
  if (broke && error instanceof TypeError && NOT_FETCHED.test(error.message))
    return (
      <Page title="This view did not arrive">
        <Empty
          action={
            <Button main onPress={() => window.location.reload()}>
              Try again
            </Button>
          }
        >
          The server did not send it; it may be stopped, or newer than this page. Everything that was saved is
          still there.
        </Empty>
      </Page>
    )
  return (
    <Page title={broke ? 'This view broke' : 'Nothing here'}>
      <Empty
        action={
          <LinkButton $main to="/" reloadDocument={broke}>
            To the start
          </LinkButton>
        }
      >
        {broke
          ? 'Something in this view went wrong. Everything that was saved is still there.'
          : 'No view has this address. What you look for may have been removed, or the address was cut short.'}
      </Empty>
    </Page>
  )
}

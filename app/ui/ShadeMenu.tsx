import { Check, Moon, Sun } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useShownKey } from '../keys';
import { chooseShade, shadeChoices, toggleShade, useShade, useShadeChoice, type ShadeChoice } from './shade';
import { useShortcuts } from './useShortcuts';

const names: Record<ShadeChoice, string> = { dark: 'Dark', light: 'Light', system: 'As the system is' };

/** Dark or light, for all of Bright Reel in this browser. */
export function ShadeMenu() {
  const choice = useShadeChoice();
  const shown = useShownKey();
  const Icon = useShade() === 'light' ? Sun : Moon;
  useShortcuts({ shade: toggleShade });
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label="Dark or light"
        title={`Dark or light ${shown('shade')}`.trim()}
        className="flex items-center px-2 text-muted hover:text-text"
      >
        <Icon size={15} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-44 rounded-md border border-line bg-raised p-1 text-sm shadow-xl"
        >
          <DropdownMenu.RadioGroup value={choice} onValueChange={(next) => chooseShade(next as ShadeChoice)}>
            {shadeChoices.map((each) => (
              <DropdownMenu.RadioItem
                key={each}
                value={each}
                className="flex items-center rounded px-2.5 py-1.5 outline-none data-[highlighted]:bg-line"
              >
                {names[each]}
                <DropdownMenu.ItemIndicator className="ml-auto">
                  <Check size={14} aria-hidden />
                </DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

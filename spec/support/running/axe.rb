# frozen_string_literal: true

# What axe-core finds on the page as it stands.
module Axe
  SOURCE = File.join(Loomshuttle::ROOT, "ui", "node_modules", "axe-core", "axe.min.js")
  # Everything that moves or fades has come to rest first.
  RUN = <<~JS
    const [only, done] = arguments;
    const options = { resultTypes: ['violations'], ...(only ? { runOnly: { type: 'rule', values: only } } : {}) };
    const still = () => document.getAnimations().every((one) => one.playState !== 'running' || one.effect.getComputedTiming().iterations === Infinity);
    const told = (node) => `${node.target.join(' ')} ${node.any.concat(node.all).map((check) => check.message).join('; ')}`;
    const run = () => still()
      ? axe.run(document, options).then((result) =>
          done(result.violations.map((one) => `${one.id} (${one.impact}): ${one.nodes.map(told).join(' | ')}`.slice(0, 700))))
      : setTimeout(run, 50);
    run();
  JS

  # Rules that ask for colours; what all others find is the same in every theme.
  COLOURS = %w[color-contrast link-in-text-block].freeze

  # @param page [Capybara::Session]
  # @param only [Array<String>, nil] rules; nil: all
  # @return [Array<String>] each rule that is broken, with where
  def self.faults(page, only: nil)
    page.execute_script(File.read(SOURCE)) unless page.evaluate_script("typeof window.axe === 'object'")
    page.driver.browser.manage.timeouts.script_timeout = 120
    page.evaluate_async_script(RUN, only)
  end
end

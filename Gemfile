# frozen_string_literal: true

source "https://rubygems.org"

# The core and the two audio processes need only these two.
gem "numo-narray-alt", "~> 0.9"
gem "zeitwerk", "~> 2.6.18"

gem "bootsnap", "~> 1.18" # keeps what Ruby made of the sources
gem "committee", "~> 5.5" # requests against the OpenAPI file
gem "json", "~> 3.1"
gem "json_schemer", "~> 2.4" # device profiles against their JSON Schema
gem "pg", "~> 1.5"
gem "prawn", "~> 2.5" # patch sheets as PDF
gem "prawn-table", "~> 0.2.2"
gem "puma", "~> 8.0"
gem "rack", "~> 3.2"
gem "rackup", "~> 2.2"
gem "roo", "~> 2.10" # input lists from spreadsheets
gem "rubyzip", "~> 2.4" # exports; also keeps selenium-webdriver from an ancient release
gem "sequel", "~> 5.100"
gem "sinatra", "~> 4.2"
gem "thor", "~> 1.3"

group :test do
  gem "capybara", "~> 3.40"
  gem "numo-pocketfft", "~> 0.7" # a Fourier transform to compare with
  gem "rack-test", "~> 2.2"
  gem "rspec", "~> 3.13"
  gem "rubocop", "~> 1.80", require: false
  gem "rubocop-rspec", "~> 3.6", require: false
  gem "selenium-webdriver", "~> 4.32.0"
end

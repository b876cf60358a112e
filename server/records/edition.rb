# frozen_string_literal: true

module Server
  module Records
    # What an edit has to know of a record beside the setup: a short text that differs as soon as any of the fields that
    # people edit does (EDITED of the class), whoever wrote it.
    module Edition
      # @return [String]
      def edition = Digest::SHA256.hexdigest(JSON.generate(slice(*self.class::EDITED)))[0, 16]
    end
  end
end
